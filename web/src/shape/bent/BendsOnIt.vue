<script setup lang="ts">
import { computed } from 'vue'

import type { Part, Side } from '../../api/client'
import ActButton from '../../kit/ActButton.vue'
import { useChoice } from '../../state/choice'
import BendFields from './BendFields.vue'
import { useBends } from './bends'

/** The bends of a part, to be chosen and set; flanges are added to its sides, or to the end of the chosen one. */
defineProps<{ part: Part }>()
const picked = useChoice()
const bends = useBends()

const SIDES: Side[] = ['top', 'right', 'bottom', 'left']
const shown = computed(() => Object.fromEntries(picked.partShown?.bends.map((bend) => [bend.id, bend]) ?? []))

function called(id: string, number: number): string {
  const bend = bends.all[number]
  return shown.value[id]?.called ?? (bend?.name || `${bend?.kind === 'flange' ? 'flange' : 'bend'} ${number + 1}`)
}
</script>

<template>
  <p class="in-line adds">
    <span>+ Flange at the</span>
    <ActButton v-for="side in SIDES" :key="side" :aria-label="`Add a flange at the ${side}`" @click="bends.add(side)">{{ side }}</ActButton>
    <ActButton v-if="bends.chosen?.kind === 'flange'" @click="bends.add(bends.chosen.side, bends.chosen.id)">+ Flange on its end</ActButton>
    <ActButton @click="bends.add(null)">+ Bend line</ActButton>
  </p>
  <ul v-if="part.bends.length" class="bends">
    <li v-for="(bend, number) in part.bends" :key="bend.id">
      <ActButton :pressed="bends.chosen?.id === bend.id" @click="bends.choose(bends.chosen?.id === bend.id ? null : bend.id)">{{ called(bend.id, number) }}</ActButton>
    </li>
  </ul>
  <p v-else class="explain">Cut flat, bent afterwards: a flange stands where its side is drawn, whatever the sheet measures.</p>
  <BendFields v-if="bends.chosen" :key="bends.chosen.id" :bend="bends.chosen" :shown="shown[bends.chosen.id]" />
</template>

<style scoped>
.adds { gap: 3px 10px; font-size: 12.5px; }
.bends { list-style: none; margin: 6px 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 12px; }
.bends [aria-pressed='true'] { color: var(--ink); font-weight: 650; text-decoration: none; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import TickField from '../kit/TickField.vue'
import { plain } from '../kit/units'
import { useWorkshop } from '../state/workshop'
import type { Look } from './look'

/** Which parts there are; those that are pressed are chosen. */
const props = defineProps<{ look: Look; chosen: number[] }>()
const emit = defineEmits<{ choose: [index: number] }>()
const workshop = useWorkshop()
const shown = computed(() => props.look.shown.value)
type Found = NonNullable<typeof shown.value>['parts'][number]

function facts(part: Found): string {
  const unit = workshop.unit
  const more = [
    part.thickness && `${plain(part.thickness, unit)} ${unit} thick`,
    part.openings && `${part.openings} ${part.openings === 1 ? 'opening' : 'openings'}`,
    part.lines && `${part.lines} marked`,
    part.pockets && `${part.pockets} sunk`,
    part.texts.length && part.texts.map((text) => `“${text.words}”`).join(', '),
  ].filter(Boolean)
  return [`${plain(part.width, unit)} × ${plain(part.height, unit)} ${unit}`, ...more].join(' · ')
}
</script>

<template>
  <div v-if="shown" class="stack">
    <ul v-if="shown.parts.length" class="found">
      <li v-for="(part, index) in shown.parts" :key="index">
        <ActButton look="bare" class="one" :pressed="chosen.includes(index)" @click="emit('choose', index)">
          <strong>{{ part.name }}{{ part.count > 1 ? ` × ${part.count}` : '' }}</strong><span>{{ facts(part) }}</span>
        </ActButton>
      </li>
    </ul>
    <p v-else class="why">No outline is closed, so there is no part yet: join ends within more, or choose what is cut.</p>
    <p v-if="shown.frame" class="explain">
      A rectangle of {{ plain(shown.frame.width, workshop.unit) }} × {{ plain(shown.frame.height, workshop.unit) }} {{ workshop.unit }} is round everything; {{ shown.frame.reason }}.
      <TickField :value="shown.frame.left_out" :save="(frame) => look.told({ frame })">It is a sheet or a border, and no part</TickField>
    </p>
    <TickField :value="look.choices.value.mirrored ?? false" :save="(mirrored) => look.told({ mirrored })">Outlines turned over count as equal</TickField>
  </div>
</template>

<style scoped>
p { margin: 2px 0; }
.found { list-style: none; margin: 0; padding: 0; border-top: 1px solid var(--rule); max-height: 240px; overflow-y: auto; }
.found li { border-bottom: 1px solid var(--faint-rule); }
.one.act.el-button { display: grid; width: 100%; justify-items: start; text-align: left; padding: 4px 6px; border-left: 3px solid transparent; }
.one.act.el-button.on { border-left-color: var(--accent); background: var(--paper); }
.one :deep(> span) { display: grid; justify-items: start; }
.one span { color: var(--soft-ink); font-size: 12px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import ChoiceBox from '../kit/ChoiceBox.vue'
import SizeField from '../kit/SizeField.vue'
import { plain } from '../kit/units'
import type { Refusal } from '../state/refusal'
import type { Look, WayIn } from './look'

/** What each line is for: a row for each layer of the file, or for each colour where it has no layers. */
const props = defineProps<{ look: Look }>()
const rows = computed(() => props.look.shown.value?.rows ?? [])

type Row = WayIn['rows'][number]
const PURPOSES: Row['purpose'][] = ['cut', 'score', 'engrave', 'pocket', 'bend up', 'bend down', 'reference', 'left out']
const choices = PURPOSES.map((value) => ({ value, label: value }))

function put(key: string, purpose: Row['purpose']): void {
  void props.look.told({ purposes: { ...props.look.choices.value.purposes, [key]: purpose } })
}

function depth(row: Row): Size {
  return props.look.choices.value.depths?.[row.key] ?? { text: row.depth === null ? '' : plain(row.depth, 'mm'), unit: 'mm' }
}

function putDepth(key: string, size: Size): Promise<Refusal | null> {
  return props.look.choose({ depths: { ...props.look.choices.value.depths, [key]: size } })
}
</script>

<template>
  <p v-if="look.madeFor.value" class="reason">It begins with what was chosen for {{ look.madeFor.value }}.</p>
  <ul class="rows-of-it">
    <li v-for="row in rows" :key="row.key">
      <span class="swatch" :style="{ background: row.colour || 'transparent' }" aria-hidden="true" />
      <label :for="`row-${row.key}`" class="cut-off" :title="row.key">{{ row.key }} <span class="count">{{ row.lines }}</span></label>
      <ChoiceBox :id="`row-${row.key}`" :value="row.purpose" :choices="choices" :save="(purpose) => put(row.key, purpose)" />
      <span class="reason">{{ row.reason }}</span>
      <SizeField v-if="row.purpose === 'pocket'" class="depth" label="Depth (half the sheet unless told)" :size="depth(row)" :save="(size) => putDepth(row.key, size)" />
    </li>
  </ul>
</template>

<style scoped>
.rows-of-it { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; }
li { display: grid; grid-template-columns: 12px minmax(0, 1fr) 108px; gap: 2px 8px; align-items: center; }
.swatch { width: 12px; height: 12px; border: 1px solid var(--rule); }
.count { color: var(--soft-ink); }
.reason { grid-column: 2 / -1; color: var(--soft-ink); font-size: 11.5px; margin: 0 0 4px; }
.depth { grid-column: 2 / -1; }
</style>

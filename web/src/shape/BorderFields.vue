<script setup lang="ts">
import { computed } from 'vue'

import type { Part } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { typed, withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { useShapes } from './shapes'

/** A border that what is on the part is held in, and gaps that are too narrow for its stock. */
const props = defineProps<{ part: Part; putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null> }>()
const edits = useEdits()
const workshop = useWorkshop()
const picked = useChoice()
const shapes = useShapes()

const narrow = computed(() => picked.partShown?.narrow ?? [])
const least = computed(() => workshop.document?.stocks.find((s) => s.id === props.part.stock)?.smallest_web ?? null)

function fit(together: boolean): void {
  void edits.change({ do: 'fit inside', part: props.part.id, ids: shapes.ids, together })
}

function scale(by: { text: string; unit: 'mm' | 'in' }): Promise<Refusal | null> {
  return edits.edit({ do: 'scale shapes', part: props.part.id, ids: shapes.ids, by, each: true })
}

function spread(): void {
  void edits.change({ do: 'spread shapes', part: props.part.id, ids: shapes.ids.length > 1 ? shapes.ids : [] })
}
</script>

<template>
  <TickField :value="part.border !== null" :save="(on) => void edits.told(putPart(() => ({ border: on ? { margin: typed(10, workshop.unit) } : null })))">A border inside its edge</TickField>
  <SizeField v-if="part.border" label="Margin of the border" :size="part.border.margin" :value="workshop.shown?.values[`parts/${part.id}/border`]" :save="(margin) => putPart(() => ({ border: { margin } }))" />
  <p v-if="shapes.ids.length" class="in-line">
    <ActButton @click="fit(false)">Scale the chosen to fit inside</ActButton>
    <ActButton v-if="shapes.ids.length > 1" @click="fit(true)">as one</ActButton>
  </p>
  <SizeField v-if="shapes.ids.length" label="Each so many times as large" :size="{ text: '1', unit: 'mm' }" bare :save="scale" />
  <p v-if="least" class="gap">Smallest gap of this stock: {{ least.text }} {{ least.unit }}, set at Measure.
    <template v-if="narrow.length">{{ narrow.length }} {{ narrow.length === 1 ? 'place is' : 'places are' }} narrower, the narrowest {{ withUnit(narrow[0]!.gap, workshop.unit) }}.</template>
  </p>
  <p v-if="narrow.length"><ActButton look="ink" @click="spread">Spread{{ shapes.ids.length > 1 ? ' the chosen' : '' }}</ActButton></p>
</template>

<style scoped>
.gap { color: var(--soft-ink); font-size: 12px; margin: 4px 0; }
</style>

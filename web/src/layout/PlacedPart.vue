<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { keyOf, usePlacing, type Laid } from './placing'

/** Where the chosen copy lies, in numbers, and how. */
const props = defineProps<{ laid: Laid }>()
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const { place, turn, turnBy } = usePlacing()

const here = computed(() => props.laid.placement)
const sheets = computed(() => (workshop.shown?.sheets ?? []).map((_, index) => index))
const sheetNames = computed(() => Object.fromEntries(sheets.value.map((index) => [index, String(index + 1)])))
const mayTurnOver = computed(() => workshop.document?.parts.find((part) => part.id === here.value.part)?.both_faces ?? false)

function placeExactly(which: 'x' | 'y' | 'turn', size: Size): Promise<Refusal | null> {
  const { x, y, turn: degrees, part, copy_number, sheet } = here.value
  const mm = (value: number): Size => ({ text: String(value), unit: 'mm' })
  return edits.edit({ do: 'place exactly', part, copy_number, sheet, x: mm(x), y: mm(y), turn: mm(degrees), [which]: size })
}

function toSheet(sheet: number): void {
  void place(props.laid, { sheet }).then(() => picked.pick({ sheet }))
}

function letGo(): void {
  const now = workshop.document?.layout
  if (!now) return
  const placements = now.placements.map((p) => (keyOf(p) === props.laid.key ? { ...p, by_hand: false } : p))
  void edits.change({ do: 'set layout', layout: { ...now, placements } })
}
</script>

<template>
  <h2>{{ laid.name }}</h2>
  <div class="stack chosen">
    <SizeField :key="`${laid.key}x`" label="Across" :size="typed(here.x, workshop.unit)" :save="(size) => placeExactly('x', size)" />
    <SizeField :key="`${laid.key}y`" label="Up" :size="typed(here.y, workshop.unit)" :save="(size) => placeExactly('y', size)" />
    <SizeField :key="`${laid.key}t`" label="Turned by (degrees)" :size="{ text: String(here.turn), unit: 'mm' }" bare :save="(size) => placeExactly('turn', size)" />
    <ChoiceField v-if="sheets.length > 1" label="On sheet" :value="here.sheet" :options="sheets" :names="sheetNames" :save="toSheet" />
    <TickField v-if="mayTurnOver || here.mirrored" :value="here.mirrored" :save="(mirrored) => turn(laid, { mirrored })">Lies on its face</TickField>
    <TickField :value="here.cut" :save="(cut) => void place(laid, { cut })">Already cut: stays here, and is not cut again</TickField>
    <p class="in-line">
      <ActButton @click="turnBy(laid, 90)">Turn by 90</ActButton>
      <ActButton v-if="here.by_hand" @click="letGo">Let the nesting move it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.chosen { border-left: 2px solid var(--accent); padding-left: 8px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import { bareMillimetres, isBare, typed } from '../kit/units'
import { useEdits } from '../state/edits'
import { refusal, type Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import TickField from '../kit/TickField.vue'

interface Knot {
  x: number
  y: number
  corner: boolean
}

/** The points that a curve runs through, in mm: moved, made corners, added and taken away. */
const props = defineProps<{
  knots: Knot[]
  save: (knots: Knot[]) => Promise<Refusal | null>
  /** Places one point by a sum; without it only plain numbers do. */
  place?: (index: number, way: 'x' | 'y', to: Size) => Promise<Refusal | null>
}>()
const workshop = useWorkshop()
const edits = useEdits()
const least = computed(() => props.knots.length <= 3)

function put(index: number, change: Partial<Knot>): Promise<Refusal | null> {
  return props.save(props.knots.map((knot, i) => (i === index ? { ...knot, ...change } : knot)))
}

function move(index: number, way: 'x' | 'y', size: Size): Promise<Refusal | null> {
  if (props.place) return props.place(index, way, size)
  if (isBare(size.text)) return put(index, { [way]: bareMillimetres(size) })
  return Promise.resolve(refusal('A point of a curve is placed by a plain number.'))
}

/** A new point halfway to the next one. */
function add(index: number): void {
  const here = props.knots[index]
  const next = props.knots[(index + 1) % props.knots.length]
  if (!here || !next) return
  const between = { x: (here.x + next.x) / 2, y: (here.y + next.y) / 2, corner: false }
  void edits.told(props.save([...props.knots.slice(0, index + 1), between, ...props.knots.slice(index + 1)]))
}

function remove(index: number): void {
  void edits.told(props.save(props.knots.filter((_, i) => i !== index)))
}
</script>

<template>
  <ol class="knots" aria-label="Points of the curve">
    <li v-for="(knot, index) in knots" :key="index">
      <span>{{ index + 1 }}</span>
      <SizeField :label="`Point ${index + 1}, across`" :size="typed(knot.x, workshop.unit)" :save="(size) => move(index, 'x', size)" small hide-label bare />
      <SizeField :label="`Point ${index + 1}, up`" :size="typed(knot.y, workshop.unit)" :save="(size) => move(index, 'y', size)" small hide-label bare />
      <TickField :value="knot.corner" :label="`Point ${index + 1} is a corner`" :save="(corner) => void edits.told(put(index, { corner }))">corner</TickField>
      <ActButton :aria-label="`Add a point after ${index + 1}`" title="Add a point after this one" @click="add(index)">+</ActButton>
      <ActButton v-if="!least" :aria-label="`Remove point ${index + 1}`" @click="remove(index)">✕</ActButton>
    </li>
  </ol>
</template>

<style scoped>
.knots { list-style: none; margin: 6px 0; padding: 0; display: grid; gap: 2px; }
.knots li { display: grid; grid-template-columns: 14px 66px 66px 1fr auto 14px; gap: 6px; align-items: center; font-size: 12px; }
.knots span { color: var(--soft-ink); }
</style>

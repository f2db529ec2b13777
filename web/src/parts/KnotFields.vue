<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../fields/SizeField.vue'
import { bareMillimetres, isBare, typed } from '../fields/units'
import { useWorkshop, type Refusal } from '../stores/workshop'

interface Knot {
  x: number
  y: number
  corner: boolean
}

/** The points that a curve runs through, in mm: moved, made corners, added and taken away. */
const props = defineProps<{ knots: Knot[]; save: (knots: Knot[]) => Promise<Refusal | null> }>()
const workshop = useWorkshop()
const least = computed(() => props.knots.length <= 3)

function put(index: number, change: Partial<Knot>): Promise<Refusal | null> {
  return props.save(props.knots.map((knot, i) => (i === index ? { ...knot, ...change } : knot)))
}

function move(index: number, way: 'x' | 'y', size: Size): Promise<Refusal | null> {
  if (isBare(size.text)) return put(index, { [way]: bareMillimetres(size) })
  return Promise.resolve({ message: 'A point of a curve is placed by a plain number.', mend: null })
}

/** A new point halfway to the next one. */
function add(index: number): void {
  const here = props.knots[index]
  const next = props.knots[(index + 1) % props.knots.length]
  if (!here || !next) return
  const between = { x: (here.x + next.x) / 2, y: (here.y + next.y) / 2, corner: false }
  void workshop.told(props.save([...props.knots.slice(0, index + 1), between, ...props.knots.slice(index + 1)]))
}

function remove(index: number): void {
  void workshop.told(props.save(props.knots.filter((_, i) => i !== index)))
}
</script>

<template>
  <ol class="knots" aria-label="Points of the curve">
    <li v-for="(knot, index) in knots" :key="index">
      <span>{{ index + 1 }}</span>
      <SizeField :label="`Point ${index + 1}, across`" :size="typed(knot.x, workshop.unit)" :save="(size) => move(index, 'x', size)" small hide-label bare />
      <SizeField :label="`Point ${index + 1}, up`" :size="typed(knot.y, workshop.unit)" :save="(size) => move(index, 'y', size)" small hide-label bare />
      <label><input type="checkbox" :checked="knot.corner" @change="workshop.told(put(index, { corner: !knot.corner }))" /> corner</label>
      <button type="button" class="plain-button" :aria-label="`Add a point after ${index + 1}`" title="Add a point after this one" @click="add(index)">+</button>
      <button v-if="!least" type="button" class="plain-button" :aria-label="`Remove point ${index + 1}`" @click="remove(index)">✕</button>
    </li>
  </ol>
</template>

<style scoped>
.knots { list-style: none; margin: 6px 0; padding: 0; display: grid; gap: 2px; }
.knots li { display: grid; grid-template-columns: 14px 66px 66px 1fr auto 14px; gap: 6px; align-items: center; font-size: 12px; }
.knots span { color: var(--soft-ink); }
</style>

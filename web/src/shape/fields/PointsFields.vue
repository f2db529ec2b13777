<script setup lang="ts">
import type { Schemas } from '../../api/client'
import ActButton from '../../kit/ActButton.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import SizeField from '../../kit/SizeField.vue'
import TickField from '../../kit/TickField.vue'
import { typed } from '../../kit/units'
import { useEdits } from '../../state/edits'
import type { Refusal } from '../../state/refusal'
import { useWorkshop } from '../../state/workshop'
import type { ShapeProps } from './more'

/** The points of a line, each typed from the zero of its shape, by sums as any size. */
type Point = Schemas['PointAt']
const props = defineProps<ShapeProps<Schemas['Points']>>()
const edits = useEdits()
const workshop = useWorkshop()

function put(index: number, change: Partial<Point>): Promise<Refusal | null> {
  return props.save({ points: props.hole.points.map((point, i) => (i === index ? { ...point, ...change } : point)) })
}

/** A new point halfway to the next one. */
function add(index: number): void {
  const next = (index + 1) % props.hole.points.length
  const at = (way: 'x' | 'y'): number => ((props.value(`points/${index}/${way}`) ?? 0) + (props.value(`points/${next}/${way}`) ?? 0)) / 2
  const between: Point = { x: typed(at('x'), workshop.unit), y: typed(at('y'), workshop.unit), smooth: false }
  void edits.told(props.save({ points: [...props.hole.points.slice(0, index + 1), between, ...props.hole.points.slice(index + 1)] }))
}

function remove(index: number): void {
  void edits.told(props.save({ points: props.hole.points.filter((_, i) => i !== index) }))
}
</script>

<template>
  <TickField :value="hole.closed" :save="(closed) => void edits.told(props.save({ closed }))">Closed</TickField>
  <ChoiceField label="The points are" :value="hole.half" :options="['whole', 'right half', 'upper half']" :names="{ whole: 'all of it', 'right half': 'its right half', 'upper half': 'its upper half' }" :save="(half) => void edits.told(props.save({ half }))" />
  <ol class="points" aria-label="Points of the line">
    <li v-for="(point, index) in hole.points" :key="index">
      <span>{{ index + 1 }}</span>
      <SizeField :label="`Point ${index + 1}, across`" :size="point.x" :save="(x) => put(index, { x })" small hide-label bare />
      <SizeField :label="`Point ${index + 1}, up`" :size="point.y" :save="(y) => put(index, { y })" small hide-label bare />
      <TickField :value="point.smooth" :label="`Point ${index + 1} is smooth`" :save="(smooth) => void edits.told(put(index, { smooth }))">smooth</TickField>
      <ActButton :aria-label="`Add a point after ${index + 1}`" title="Add a point after this one" @click="add(index)">+</ActButton>
      <ActButton v-if="hole.points.length > 2" :aria-label="`Remove point ${index + 1}`" @click="remove(index)">✕</ActButton>
    </li>
  </ol>
</template>

<style scoped>
.points { list-style: none; margin: 6px 0; padding: 0; display: grid; gap: 2px; }
.points li { display: grid; grid-template-columns: 14px 66px 66px 1fr auto 14px; gap: 6px; align-items: center; font-size: 12px; }
.points span { color: var(--soft-ink); }
</style>

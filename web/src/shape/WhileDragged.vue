<script setup lang="ts">
import type { View } from '../drawing/view'
import { withUnit } from '../kit/units'
import { useWorkshop } from '../state/workshop'
import { useDragging } from './dragging'
import type { Drawn } from './snap'

/** What the dragged shapes were drawn to, with the distance there. */
const props = defineProps<{ view: View }>()
const dragging = useDragging()
const workshop = useWorkshop()

function line(drawn: Drawn): { x1: number; y1: number; x2: number; y2: number } {
  const a = drawn.across ? props.view.toScreen(drawn.at, drawn.from) : props.view.toScreen(drawn.from, drawn.at)
  const b = drawn.across ? props.view.toScreen(drawn.at, drawn.to) : props.view.toScreen(drawn.to, drawn.at)
  return { x1: a.x, y1: a.y, x2: b.x, y2: b.y }
}

function gap(drawn: Drawn, [start, end]: [number, number]): { x1: number; y1: number; x2: number; y2: number; says: string } {
  const a = drawn.across ? props.view.toScreen(start, drawn.from) : props.view.toScreen(drawn.from, start)
  const b = drawn.across ? props.view.toScreen(end, drawn.from) : props.view.toScreen(drawn.from, end)
  return { x1: a.x, y1: a.y, x2: b.x, y2: b.y, says: withUnit(Math.abs(end - start), workshop.unit) }
}
</script>

<template>
  <g v-for="(drawn, index) in dragging.drawn" :key="index" class="drawn-to">
    <line v-if="!drawn.gaps.length" v-bind="line(drawn)" />
    <g v-for="(span, at) in drawn.gaps" :key="at">
      <line class="gap" :x1="gap(drawn, span).x1" :y1="gap(drawn, span).y1" :x2="gap(drawn, span).x2" :y2="gap(drawn, span).y2" />
      <text :x="(gap(drawn, span).x1 + gap(drawn, span).x2) / 2 + 3" :y="(gap(drawn, span).y1 + gap(drawn, span).y2) / 2 - 4">{{ gap(drawn, span).says }}</text>
    </g>
  </g>
</template>

<style scoped>
.drawn-to { pointer-events: none; stroke: var(--accent); stroke-width: 0.8; }
.drawn-to line { stroke-dasharray: 5 3; }
.drawn-to .gap { stroke-dasharray: none; stroke-width: 1.6; }
.drawn-to text { stroke: none; fill: var(--accent); font-size: 11px; text-anchor: middle; }
</style>

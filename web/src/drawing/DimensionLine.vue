<script setup lang="ts">
import { computed } from 'vue'

import type { View } from './view'

/** A dimension line between two points in mm, set off to one side by some pixels. */
const props = defineProps<{ view: View; from: [number, number]; to: [number, number]; off: number }>()

const line = computed(() => {
  const a = props.view.toScreen(...props.from)
  const b = props.view.toScreen(...props.to)
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1
  const across = { x: (-(b.y - a.y) / length) * props.off, y: ((b.x - a.x) / length) * props.off }
  return { a, b, from: { x: a.x + across.x, y: a.y + across.y }, to: { x: b.x + across.x, y: b.y + across.y } }
})
</script>

<template>
  <g class="dimension">
    <line class="thin" :x1="line.a.x" :y1="line.a.y" :x2="line.from.x" :y2="line.from.y" />
    <line class="thin" :x1="line.b.x" :y1="line.b.y" :x2="line.to.x" :y2="line.to.y" />
    <line :x1="line.from.x" :y1="line.from.y" :x2="line.to.x" :y2="line.to.y" />
    <path :d="`M${line.from.x - 3} ${line.from.y + 3}l6 -6M${line.to.x - 3} ${line.to.y + 3}l6 -6`" />
  </g>
</template>

<style scoped>
.dimension { stroke: var(--ink); stroke-width: 0.8; fill: none; pointer-events: none; }
.thin { stroke: var(--soft-ink); stroke-width: 0.5; }
</style>

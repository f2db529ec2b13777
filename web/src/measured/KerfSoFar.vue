<script setup lang="ts">
import { computed } from 'vue'

import { fine } from '../kit/units'
import { useWorkshop } from '../state/workshop'

/** The kerf of a stock on a machine as it was learnt, day by day: whether it drifts. */
const props = defineProps<{ stock: string; machine: string }>()
const workshop = useWorkshop()

const SIZE = { width: 340, height: 70, side: 8 }
const history = computed(() => {
  const stock = workshop.document?.stocks.find(({ id }) => id === props.stock)
  return (stock?.on.find(({ machine }) => machine === props.machine) ?? stock)?.history ?? []
})
const dots = computed(() => {
  const days = history.value.map(({ date }) => Date.parse(date))
  const kerfs = history.value.map(({ kerf }) => kerf)
  const [first, low] = [Math.min(...days), Math.min(...kerfs)]
  const along = Math.max(...days) - first || 1
  const up = Math.max(...kerfs) - low || 1
  return history.value.map(({ date, kerf }, at) => ({
    date,
    kerf,
    x: SIZE.side + ((days[at] ?? first) - first) / along * (SIZE.width - 2 * SIZE.side),
    y: SIZE.height - 20 - ((kerf - low) / up) * (SIZE.height - 36),
  }))
})
</script>

<template>
  <section v-if="history.length > 1" aria-label="Kerf so far">
    <h3>Kerf so far</h3>
    <svg :width="SIZE.width" :height="SIZE.height" role="img" :aria-label="dots.map(({ date, kerf }) => `${date}: ${fine(kerf, workshop.unit)} ${workshop.unit}`).join(', ')">
      <polyline :points="dots.map(({ x, y }) => `${x},${y}`).join(' ')" />
      <g v-for="(dot, at) in dots" :key="at"><circle :cx="dot.x" :cy="dot.y" r="3"><title>{{ dot.date }}: {{ fine(dot.kerf, workshop.unit) }} {{ workshop.unit }}</title></circle></g>
      <text :x="SIZE.side" :y="SIZE.height - 4">{{ dots[0]?.date }}: {{ fine(dots[0]?.kerf ?? 0, workshop.unit) }} {{ workshop.unit }}</text>
      <text class="last" :x="SIZE.width - SIZE.side" :y="SIZE.height - 4">{{ dots.at(-1)?.date }}: {{ fine(dots.at(-1)?.kerf ?? 0, workshop.unit) }} {{ workshop.unit }}</text>
    </svg>
  </section>
</template>

<style scoped>
polyline { fill: none; stroke: var(--accent); stroke-width: 1.2; }
circle { fill: var(--accent); }
text { font-size: 11px; fill: var(--soft-ink); }
.last { text-anchor: end; }
svg { max-width: 100%; }
</style>

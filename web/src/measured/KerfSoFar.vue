<script setup lang="ts">
import { computed } from 'vue'

import { fine } from '../kit/units'
import { useWorkshop } from '../state/workshop'

/** The kerf of a stock on a machine as it was learnt, day by day: whether it drifts. */
const props = defineProps<{ stock: string; machine: string }>()
const workshop = useWorkshop()

const SIZE = { width: 340, height: 84, side: 8 }
const history = computed(() => {
  const stock = workshop.document?.stocks.find(({ id }) => id === props.stock)
  return (stock?.on.find(({ machine }) => machine === props.machine) ?? stock)?.history ?? []
})
const tended = computed(() => workshop.document?.machines.find(({ id }) => id === props.machine)?.tended ?? [])
const days = computed(() => history.value.map(({ date }) => Date.parse(date)))

/** Where (px) a day stands in the plot. */
function across(day: number): number {
  const first = Math.min(...days.value)
  return SIZE.side + ((day - first) / (Math.max(...days.value) - first || 1)) * (SIZE.width - 2 * SIZE.side)
}
/** Care between the first and the last measured day. */
const cares = computed(() =>
  tended.value
    .map(({ date, what }) => ({ date, what, x: across(Date.parse(date)) }))
    .filter(({ x }) => x >= SIZE.side && x <= SIZE.width - SIZE.side),
)
const dots = computed(() => {
  const kerfs = history.value.map(({ kerf }) => kerf)
  const low = Math.min(...kerfs)
  const up = Math.max(...kerfs) - low || 1
  return history.value.map(({ date, kerf }, at) => ({
    date,
    kerf,
    x: across(days.value[at] ?? 0),
    y: SIZE.height - 20 - ((kerf - low) / up) * (SIZE.height - 46),
  }))
})
</script>

<template>
  <section v-if="history.length > 1" aria-label="Kerf so far">
    <h3>Kerf so far</h3>
    <svg :width="SIZE.width" :height="SIZE.height" role="img" :aria-label="[...dots.map(({ date, kerf }) => `${date}: ${fine(kerf, workshop.unit)} ${workshop.unit}`), ...cares.map(({ date, what }) => `${date}: ${what}`)].join(', ')">
      <g v-for="(care, at) in cares" :key="`care ${at}`" class="care">
        <line :x1="care.x" :x2="care.x" y1="14" :y2="SIZE.height - 18" />
        <text :x="care.x" y="10" :text-anchor="care.x > SIZE.width / 2 ? 'end' : 'start'">{{ care.what }}</text>
      </g>
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
.care line { stroke: var(--soft-ink); stroke-dasharray: 2 3; }
text { font-size: 11px; fill: var(--soft-ink); }
.last { text-anchor: end; }
svg { max-width: 100%; }
</style>

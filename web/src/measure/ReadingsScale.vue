<script setup lang="ts">
import { computed } from 'vue'

import { plain } from '../kit/units'
import { useWorkshop } from '../state/workshop'

/** Caliper readings on a rule, so that a stray one is seen. */
const props = defineProps<{ readings: number[]; mean: number }>()
const workshop = useWorkshop()

const WIDTH = 340

const range = computed(() => {
  const all = [...props.readings, props.mean]
  const middle = (Math.min(...all) + Math.max(...all)) / 2
  const half = Math.max((Math.max(...all) - Math.min(...all)) * 0.65, 0.1)
  return { from: middle - half, to: middle + half }
})

function at(mm: number): number {
  return 20 + ((mm - range.value.from) / (range.value.to - range.value.from)) * (WIDTH - 40)
}

const ticks = computed(() => {
  const step = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5].find((s) => (range.value.to - range.value.from) / s <= 9) ?? 10
  const found = []
  for (let i = Math.ceil(range.value.from / step); i * step <= range.value.to; i++) found.push(i * step)
  return found
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} 62`" class="scale" role="img" :aria-label="`${readings.length} readings round ${plain(mean, workshop.unit)}`">
    <line class="axis" x1="10" :x2="WIDTH - 10" y1="38" y2="38" />
    <g v-for="tick in ticks" :key="tick">
      <line class="axis" :x1="at(tick)" :x2="at(tick)" y1="38" y2="43" />
      <text :x="at(tick)" y="54">{{ plain(tick, workshop.unit) }}</text>
    </g>
    <line class="mean" :x1="at(mean)" :x2="at(mean)" y1="8" y2="43" />
    <text class="mean-name" :x="at(mean)" y="7">mean</text>
    <path v-for="(reading, index) in readings" :key="index" class="reading" :d="`M${at(reading)} 37l-4 -9h8z`" />
  </svg>
</template>

<style scoped>
.scale { width: 100%; max-width: 380px; display: block; }
.axis { stroke: var(--ink); stroke-width: 0.8; }
.mean { stroke: var(--accent); stroke-width: 1.4; }
.reading { fill: none; stroke: var(--ink); stroke-width: 1; }
text { font-size: 9.5px; text-anchor: middle; fill: var(--soft-ink); }
.mean-name { fill: var(--accent); }
</style>

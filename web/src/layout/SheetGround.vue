<script setup lang="ts">
import { computed } from 'vue'

import type { LaidSheet, Schemas } from '../api/client'
import { lies } from '../picture/picture'

/** A sheet as it lies there: its edge, the margin within it, what is missing or held by clips, and what is left whole. */
const props = defineProps<{ sheet: LaidSheet; margin: number; rest: Schemas['RestShown'] | null }>()

function ring(points: { x: number; y: number }[]): string {
  return points.map(({ x, y }) => `${x},${-y}`).join(' ')
}

const edge = computed(() => {
  const { width, height, outline } = props.sheet
  return ring(outline.length ? outline : [{ x: 0, y: 0 }, { x: width, y: 0 }, { x: width, y: height }, { x: 0, y: height }])
})
const hasMargin = computed(() => !props.sheet.outline.length && props.margin * 2 < Math.min(props.sheet.width, props.sheet.height))
</script>

<template>
  <polygon class="sheet-edge" :class="{ through: lies }" :points="edge" vector-effect="non-scaling-stroke" />
  <rect v-if="hasMargin" class="margin-line" :x="margin" :y="margin - sheet.height" :width="sheet.width - 2 * margin" :height="sheet.height - 2 * margin" vector-effect="non-scaling-stroke" />
  <polygon v-for="(barred, index) in sheet.barred" :key="index" :class="barred.what" :points="ring(barred.corners)" vector-effect="non-scaling-stroke">
    <title>{{ barred.what === 'clip' ? 'A clip holds the sheet here' : 'The sheet is missing here' }}</title>
  </polygon>
  <rect v-if="rest" class="rest" :x="rest.left" :y="-rest.bottom - rest.height" :width="rest.width" :height="rest.height" vector-effect="non-scaling-stroke" />
</template>

<style scoped>
.sheet-edge { fill: var(--paper); stroke: var(--ink); stroke-width: 1; pointer-events: none; }
.sheet-edge.through { fill-opacity: 0.55; }
.margin-line { fill: none; stroke: var(--rule); stroke-width: 1; stroke-dasharray: 3 4; pointer-events: none; }
.missing { fill: var(--ground); stroke: var(--ink); stroke-width: 1; }
.clip { fill: var(--ink); fill-opacity: 0.55; stroke: var(--ink); stroke-width: 1; }
.rest { fill: none; stroke: var(--soft-ink); stroke-width: 1; stroke-dasharray: 1 3; pointer-events: none; }
</style>

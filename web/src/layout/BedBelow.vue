<script setup lang="ts">
import { computed } from 'vue'

import type { LaidSheet } from '../api/client'
import { bareMillimetres } from '../kit/units'
import UnderPicture from '../picture/UnderPicture.vue'
import { usePrepared } from '../prepare/prepared'
import { useChoice } from '../state/choice'

/** The bed below the sheet that lies on it, drawn from the sheet: its edge, its datum and axes, and its picture. */
defineProps<{ sheet: LaidSheet }>()
const picked = useChoice()
const { prepared } = usePrepared()

/** From the bed to the sheet, y turned down. */
const place = computed(() => {
  const lies = prepared.value?.lies
  if (!lies) return ''
  const { cos, sin, x, y } = lies
  return `matrix(${cos} ${sin} ${-sin} ${cos} ${-(cos * x + sin * y)} ${cos * y - sin * x})`
})
const shown = computed(() => (picked.machine && bareMillimetres(picked.machine.bed_width) ? prepared.value : null))
</script>

<template>
  <g v-if="shown" :transform="place" class="below">
    <rect class="bed" x="0" :y="-shown.bed_height" :width="shown.bed_width" :height="shown.bed_height" vector-effect="non-scaling-stroke" />
    <UnderPicture />
    <path class="axes" :d="`M${shown.datum_x} ${-shown.datum_y}h${shown.x_runs === 'right' ? 30 : -30}M${shown.datum_x} ${-shown.datum_y}v${shown.y_runs === 'up' ? -30 : 30}`" vector-effect="non-scaling-stroke" />
  </g>
</template>

<style scoped>
.below { pointer-events: none; }
.bed { fill: #ece5d6; stroke: var(--soft-ink); stroke-width: 1; stroke-dasharray: 8 3; }
.axes { fill: none; stroke: var(--accent); stroke-width: 2; }
</style>

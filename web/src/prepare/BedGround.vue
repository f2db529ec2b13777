<script setup lang="ts">
import { computed } from 'vue'

import type { LaidSheet } from '../api/client'
import type { View } from '../drawing/view'
import SheetGround from '../layout/SheetGround.vue'
import UnderPicture from '../picture/UnderPicture.vue'
import { liesAt, type Prepared } from './prepared'

/** The bed as one stands before it, with its datum and axes, what must be kept out of, and the sheet that lies there. */
const props = defineProps<{ prepared: Prepared; sheet: LaidSheet; view: View }>()

const AXIS = 44
const datum = computed(() => props.view.toScreen(props.prepared.datum_x, props.prepared.datum_y))
const held = computed(() => props.view.toScreen(props.prepared.held_x, props.prepared.held_y))
const across = computed(() => (props.prepared.x_runs === 'right' ? AXIS : -AXIS))
const up = computed(() => (props.prepared.y_runs === 'up' ? -AXIS : AXIS))
</script>

<template>
  <g :transform="view.place.value">
    <rect class="bed" x="0" :y="-prepared.bed_height" :width="prepared.bed_width" :height="prepared.bed_height" vector-effect="non-scaling-stroke" />
    <UnderPicture />
    <polygon v-for="(area, index) in prepared.keep_outs" :key="index" class="keep-out" :points="area.points" vector-effect="non-scaling-stroke"><title>Keep-out of the machine</title></polygon>
    <g :transform="liesAt(prepared.lies)"><SheetGround :sheet="sheet" :margin="0" :rest="null" /></g>
  </g>
  <g class="axes" aria-hidden="true">
    <circle :cx="datum.x" :cy="datum.y" r="4" />
    <path :d="`M${datum.x} ${datum.y}h${across}m${-Math.sign(across) * 7} -3.5l${Math.sign(across) * 7} 3.5l${-Math.sign(across) * 7} 3.5`" />
    <path :d="`M${datum.x} ${datum.y}v${up}m-3.5 ${-Math.sign(up) * 7}l3.5 ${Math.sign(up) * 7}l3.5 ${-Math.sign(up) * 7}`" />
    <text :x="datum.x + across + Math.sign(across) * 7" :y="datum.y + 4" :text-anchor="across > 0 ? 'start' : 'end'">x</text>
    <text :x="datum.x + 6" :y="datum.y + up + (up < 0 ? 2 : 8)">y</text>
    <path class="held" :d="`M${held.x - 8} ${held.y}h16M${held.x} ${held.y - 8}v16`" />
  </g>
</template>

<style scoped>
.bed { fill: #ece5d6; stroke: var(--soft-ink); stroke-width: 1; stroke-dasharray: 8 3; pointer-events: none; }
.keep-out { fill: var(--ink); fill-opacity: 0.45; stroke: var(--ink); stroke-width: 1; }
.axes { pointer-events: none; }
.axes path { fill: none; stroke: var(--accent); stroke-width: 1.4; }
.axes circle { fill: var(--accent); }
.axes text { fill: var(--accent); font-size: 12px; font-weight: 600; }
.axes .held { stroke-width: 1; }
</style>

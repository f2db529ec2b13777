<script setup lang="ts">
import { ref } from 'vue'

import RuledGround from '../drawing/RuledGround.vue'
import type { View } from '../drawing/view'
import type { WayIn } from './look'

/** The drawing at true scale: its parts filled, what stays open and what is unclear marked, the rest as thin lines. */
const props = defineProps<{ shown: WayIn; chosen: number[]; line: string; fill: string }>()
const emit = defineEmits<{ part: [index: number]; spot: [x: number, y: number] }>()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)

function press(event: MouseEvent, view: View): void {
  const at = ground.value?.frame?.getBoundingClientRect()
  if (!at) return
  const { x, y } = view.toDrawing({ x: event.clientX - at.left, y: event.clientY - at.top })
  emit('spot', x, y)
}

const drawnAs = (purpose: string): string => purpose.replace(' ', '-')
</script>

<template>
  <RuledGround ref="ground" :box="props.shown.box" :label="`Drawing ${props.shown.name}`">
    <template #default="{ view }">
      <g :transform="view.place.value">
        <path v-for="(part, index) in shown.parts" :key="`p${index}`" class="part" :class="{ chosen: chosen.includes(index) }" :style="{ fill }" fill-rule="evenodd" :d="part.path + part.copies" vector-effect="non-scaling-stroke" @click="emit('part', index)"><title>{{ part.name }}</title></path>
        <path v-if="shown.frame" class="frame" :d="shown.frame.path" vector-effect="non-scaling-stroke" />
        <path v-for="row in shown.rows" :key="row.key" class="row" :class="drawnAs(row.purpose)" :d="row.path" vector-effect="non-scaling-stroke" />
        <path v-for="row in shown.rows" :key="`g${row.key}`" class="grab" :d="row.path" vector-effect="non-scaling-stroke" @click="press($event, view)" />
        <path class="open" :d="shown.mend.open_path" vector-effect="non-scaling-stroke" />
        <path class="follows" :d="shown.following.path" vector-effect="non-scaling-stroke" />
        <path v-if="line" class="known" :d="line" vector-effect="non-scaling-stroke" />
      </g>
      <circle v-for="(end, index) in shown.mend.ends" :key="`e${index}`" class="end" :cx="view.toScreen(end.x, 0).x" :cy="view.toScreen(0, end.y).y" r="4" />
      <circle v-for="(end, index) in shown.mend.unclear" :key="`u${index}`" class="unclear" :cx="view.toScreen(end.x, 0).x" :cy="view.toScreen(0, end.y).y" r="8" />
    </template>
  </RuledGround>
</template>

<style scoped>
path { fill: none; stroke-width: 1; }
.part { stroke: none; opacity: 0.75; cursor: pointer; }
.part.chosen { opacity: 1; stroke: var(--accent); stroke-width: 3; }
.row { stroke: var(--ink); pointer-events: none; }
.row.score { stroke-dasharray: 6 3; }
.row.engrave { stroke-dasharray: 2 2; }
.row.pocket { stroke-dasharray: 9 3 2 3; }
.row.reference, .row.left-out { stroke: var(--faint-rule); }
.grab { stroke: transparent; stroke-width: 9; pointer-events: stroke; cursor: crosshair; }
.frame { stroke: var(--soft-ink); stroke-dasharray: 12 6; pointer-events: none; }
.open { stroke: var(--wrong); stroke-width: 2; pointer-events: none; }
.follows { stroke: var(--accent); stroke-width: 2.5; pointer-events: none; }
.known { stroke: var(--accent); stroke-width: 4; pointer-events: none; }
.end { fill: var(--paper); stroke: var(--wrong); stroke-width: 1.5; pointer-events: none; }
.unclear { fill: none; stroke: var(--wrong); stroke-width: 2; stroke-dasharray: 3 2; pointer-events: none; }
</style>

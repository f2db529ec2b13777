<script setup lang="ts">
import { computed, ref } from 'vue'

import RuledGround from '../drawing/RuledGround.vue'
import type { View } from '../drawing/view'
import type { Spot, WayIn } from './look'

/** The drawing at true scale: its parts filled, what stays open and what is unclear marked, the rest as thin lines. */
const props = defineProps<{ shown: WayIn; chosen: number[]; line: string; first: Spot | null; fill: string; pointed: string }>()
type Left = 'apart' | 'polygons' | 'stiff'
type Place = Spot & { taken: boolean; list: Left; says: string }
const emit = defineEmits<{ part: [index: number]; spot: [at: Spot]; turn: [list: Left, place: Place] }>()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)

function press(event: MouseEvent, view: View): void {
  const at = ground.value?.frame?.getBoundingClientRect()
  if (!at) return
  emit('spot', view.toDrawing({ x: event.clientX - at.left, y: event.clientY - at.top }))
}

/** Mends that are taken or left where they lie. */
const places = computed<Place[]>(() => [
  ...props.shown.mend.gaps.map((gap) => ({ ...gap, list: 'apart' as const, says: `gap, ${gap.taken ? 'joined' : 'left open'}` })),
  ...props.shown.following.places.map((place) => ({ ...place, list: 'stiff' as const, says: `${place.kind}, ${place.taken ? 'follows the sheet' : 'stays as it is'}` })),
])
const placesOf = (code: WayIn['told'][number]['code']): Spot[] => props.shown.told.find((one) => one.code === code)?.places ?? []
const unclear = computed(() => (['unclear', 'crossed', 'overlap', 'empty'] as const).flatMap(placesOf))
const pointedAt = computed(() => props.shown.told.find((one) => one.says === props.pointed)?.places ?? [])
const ANCHORS = { left: 'start', middle: 'middle', right: 'end' }
const texts = computed(() => props.shown.parts.flatMap((part) => part.texts))
const follows = computed(() => props.shown.following.places.filter((place) => place.taken).map((place) => place.path).join(''))

const drawnAs = (purpose: string): string => purpose.replace(' ', '-')
</script>

<template>
  <RuledGround ref="ground" :box="props.shown.box" fills :label="`Drawing ${props.shown.name}`">
    <template #default="{ view }">
      <g :transform="view.place.value">
        <path v-for="(part, index) in shown.parts" :key="`p${index}`" class="part" :class="{ chosen: chosen.includes(index) }" :style="{ fill }" fill-rule="evenodd" :d="part.path + part.copies" vector-effect="non-scaling-stroke" @click="emit('part', index)"><title>{{ part.name }}</title></path>
        <path v-if="shown.frame" class="frame" :d="shown.frame.path" vector-effect="non-scaling-stroke" />
        <path v-for="row in shown.rows" :key="row.key" class="row" :class="drawnAs(row.purpose)" :d="row.path" vector-effect="non-scaling-stroke" />
        <path v-for="row in shown.rows" :key="`g${row.key}`" class="grab" :d="row.path" vector-effect="non-scaling-stroke" @click="press($event, view)" />
        <path class="open" :d="shown.mend.crossed_path" vector-effect="non-scaling-stroke" />
        <path class="open" :d="shown.mend.open_path" vector-effect="non-scaling-stroke" />
        <path class="twice" :d="shown.mend.twice_path" vector-effect="non-scaling-stroke" />
        <path class="follows" :d="follows" vector-effect="non-scaling-stroke" />
        <text
          v-for="text in texts" :key="`${text.words}${text.x} ${text.y}`" class="words" :font-size="text.height / 0.7" :text-anchor="ANCHORS[text.align]"
          :transform="`translate(${text.x} ${-text.y}) rotate(${-text.turn}) translate(0 ${text.height / 2})`"
        >{{ text.words }}</text>
        <path v-if="line" class="known" :d="line" vector-effect="non-scaling-stroke" />
      </g>
      <circle v-for="(end, index) in placesOf('open')" :key="`e${index}`" class="end" :cx="view.toScreen(end.x, 0).x" :cy="view.toScreen(0, end.y).y" r="4" />
      <circle v-if="first" class="first" :cx="view.toScreen(first.x, 0).x" :cy="view.toScreen(0, first.y).y" r="5" />
      <circle
        v-for="place in places" :key="`${place.list}${place.x} ${place.y}`" class="mend" :class="{ left: !place.taken }" :cx="view.toScreen(place.x, 0).x" :cy="view.toScreen(0, place.y).y" r="4.5"
        tabindex="0" role="button" :aria-pressed="place.taken" :aria-label="place.says" @click.stop="emit('turn', place.list, place)" @keydown.enter.space.prevent.stop="emit('turn', place.list, place)"
      ><title>{{ place.says }}</title></circle>
      <circle v-for="(end, index) in unclear" :key="`u${index}`" class="unclear" :cx="view.toScreen(end.x, 0).x" :cy="view.toScreen(0, end.y).y" r="8" />
      <circle v-for="(at, index) in pointedAt" :key="`at${index}`" class="pointed" :cx="view.toScreen(at.x, 0).x" :cy="view.toScreen(0, at.y).y" r="13" />
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
.row.bend-up { stroke: var(--accent); stroke-dasharray: 14 4; }
.row.bend-down { stroke: var(--accent); stroke-dasharray: 14 4 2 4 2 4; }
.row.reference, .row.left-out { stroke: var(--faint-rule); }
.grab { stroke: transparent; stroke-width: 9; pointer-events: stroke; cursor: crosshair; }
.frame { stroke: var(--soft-ink); stroke-dasharray: 12 6; pointer-events: none; }
.open { stroke: var(--wrong); stroke-width: 2; pointer-events: none; }
.follows { stroke: var(--accent); stroke-width: 2.5; pointer-events: none; }
.known { stroke: var(--accent); stroke-width: 4; pointer-events: none; }
.twice { stroke: var(--wrong); stroke-width: 2; stroke-dasharray: 1 4; pointer-events: none; }
.mend { fill: var(--accent); stroke: var(--paper); stroke-width: 1.5; cursor: pointer; outline: none; }
.mend.left { fill: var(--paper); stroke: var(--accent); }
.mend:focus-visible { stroke: var(--ink); stroke-width: 3; }
.words { fill: var(--ink); pointer-events: none; }
.first { fill: var(--accent); pointer-events: none; }
.pointed { fill: none; stroke: var(--accent); stroke-width: 3; pointer-events: none; }
.end { fill: var(--paper); stroke: var(--wrong); stroke-width: 1.5; pointer-events: none; }
.unclear { fill: none; stroke: var(--wrong); stroke-width: 2; stroke-dasharray: 3 2; pointer-events: none; }
</style>

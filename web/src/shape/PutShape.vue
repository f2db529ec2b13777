<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Spot } from '../drawing/spot'
import type { View } from '../drawing/view'
import { withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import { usePutting } from './putting'
import type { Way } from './stands'

/** A shape on its way to its place: pressed there it has its usual size, dragged from there the size that is drawn. */
const props = defineProps<{ view: View }>()
const putting = usePutting()
const picked = useChoice()
const workshop = useWorkshop()
const from = ref<Spot | null>(null)

function at(event: PointerEvent): Spot {
  const box = (event.currentTarget as Element).getBoundingClientRect()
  return props.view.toDrawing({ x: event.clientX - box.left, y: event.clientY - box.top })
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  event.stopPropagation()
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  putting.hover(at(event), props.view, event.altKey)
  from.value = at(event)
}

function move(event: PointerEvent): void {
  if (from.value) putting.draw(from.value, at(event), props.view, event.altKey)
  else putting.hover(at(event), props.view, event.altKey)
}

async function drop(event: PointerEvent): Promise<void> {
  if (!from.value) return
  await putting.put('there', event.shiftKey)
  from.value = null
}

/** From where its usual outline is drawn to where it would lie, as large as it is drawn. */
const lies = computed(() => {
  const { middle, drawn, usual } = putting
  if (!middle) return ''
  const by = drawn ? ` scale(${drawn.width / usual.width} ${drawn.height / usual.height})` : ''
  return `${props.view.place.value} translate(${middle.x} ${-middle.y})${by}`
})

const SAYS = { across: { low: 'from the left', middle: 'in the middle', high: 'from the right' }, up: { low: 'from below', middle: 'in the middle', high: 'from the top' } }

function says(way: Way, which: 'across' | 'up'): string {
  if (way.of) return `in line with ${putting.others.find(({ id }) => id === way.of)?.called ?? way.of}`
  return way.from === 'middle' ? SAYS[which].middle : `${withUnit(way.far, workshop.unit)} ${SAYS[which][way.from]}`
}

/** The ways to what it stands from, on the screen, each with its words. */
const ways = computed(() => {
  const { middle, stands } = putting
  const part = picked.partShown
  if (!middle || !stands || !part) return []
  const { x, y } = props.view.toScreen(middle.x, middle.y)
  const edge = props.view.toScreen(stands.across.at, stands.up.at)
  return [
    { key: 'across', x1: edge.x, y1: y, x2: x, y2: y, says: says(stands.across, 'across'), at: { x: (edge.x + x) / 2, y: y - 6 } },
    { key: 'up', x1: x, y1: edge.y, x2: x, y2: y, says: says(stands.up, 'up'), at: { x: x + 8, y: (edge.y + y) / 2 + 14 } },
  ]
})
const size = computed(() => (putting.drawn ? `${withUnit(putting.drawn.width, workshop.unit)} × ${withUnit(putting.drawn.height, workshop.unit)}` : ''))
</script>

<template>
  <g>
    <rect class="pad" :width="view.width.value" :height="view.height.value" @pointerdown="press" @pointermove="move" @pointerup="drop" @pointercancel="from = null" @pointerleave="from || putting.forget()" />
    <template v-if="putting.middle">
      <path class="ghost" :d="putting.usual.path" :transform="lies" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
      <g v-for="way in ways" :key="way.key" class="way">
        <line :x1="way.x1" :y1="way.y1" :x2="way.x2" :y2="way.y2" />
        <text :x="way.at.x" :y="way.at.y" :class="way.key">{{ way.says }}</text>
      </g>
      <text v-if="size" class="size" :x="view.toScreen(putting.middle.x, 0).x" :y="view.toScreen(0, putting.middle.y + (putting.drawn?.height ?? 0) / 2).y - 8">{{ size }}</text>
    </template>
  </g>
</template>

<style scoped>
.pad { fill: transparent; cursor: crosshair; }
.ghost { fill: rgb(23 63 143 / 12%); stroke: var(--accent); stroke-width: 1.6; pointer-events: none; }
.way { pointer-events: none; }
.way line { stroke: var(--accent); stroke-width: 0.9; stroke-dasharray: 5 3; }
text { font-size: 11.5px; fill: var(--accent); pointer-events: none; paint-order: stroke; stroke: var(--paper); stroke-width: 3px; }
.across, .size { text-anchor: middle; }
.size { font-weight: 600; }
</style>

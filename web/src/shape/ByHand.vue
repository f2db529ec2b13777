<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, watch } from 'vue'

import { client, type Command, type CutOut, type Schemas, type Size } from '../api/client'
import type { Spot } from '../drawing/spot'
import type { View } from '../drawing/view'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import SpanSlider from '../kit/SpanSlider.vue'
import TickField from '../kit/TickField.vue'
import { typed, withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { refusalOf, type Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { useMode } from './mode'
import { useShapes } from './shapes'

/** What is drawn on a part by hand, or set there by presses: seen as it will be before it is taken. */
const props = defineProps<{ view: View; panel?: boolean }>()
const mode = useMode()
const state = mode.hand
const picked = useChoice()
const edits = useEdits()
const workshop = useWorkshop()
const shapes = useShapes()

const strokes = computed(() => ['draw a shape', 'draw the outline', 'redraw a piece'].includes(mode.mode))
const presses = computed(() => mode.mode === 'make straight' || mode.mode === 'set to scale')
const smoothing = computed(() => 0.1 * 10 ** (state.smooth * 1.9))
const closed = computed(() => mode.mode === 'draw the outline' || (mode.mode === 'draw a shape' && state.closed))
const DOES: CutOut['does'][] = ['cut out', 'add', 'pocket', 'score', 'engrave', 'fill']
const ASKS: Partial<Record<typeof mode.mode, string>> = {
  'draw a shape': 'Draw a shape: press, draw round it, let go.',
  'draw the outline': 'Draw the part’s outline: press, draw round it, let go.',
  'redraw a piece': 'Draw the piece anew, from where it leaves the outline to where it meets it again.',
  'make straight': 'Press where the straight line begins, and where it ends.',
  'set to scale': 'Press on two places of the picture whose distance you know.',
}

/** Where a pointer is, in mm of the part. */
function at(event: PointerEvent): Spot {
  const box = (event.currentTarget as Element).getBoundingClientRect()
  return props.view.toDrawing({ x: event.clientX - box.left, y: event.clientY - box.top })
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  event.stopPropagation()
  if (presses.value) {
    if (state.stroke.length < 2) state.stroke.push(at(event))
    if (mode.mode === 'make straight' && state.stroke.length === 2) void take()
    return
  }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  Object.assign(state, { drawing: true, stroke: [at(event)], preview: null, why: '' })
}

function move(event: PointerEvent): void {
  if (!state.drawing) return
  const last = state.stroke.at(-1)
  const next = at(event)
  if (last && Math.hypot(next.x - last.x, next.y - last.y) * props.view.scale.value < 2) return
  if (state.stroke.length < 4000) state.stroke.push(next)
}

function drop(): void {
  state.drawing = false
}

/** Asks for what the stroke would become whenever it or its smoothing changes; the latest answer counts. */
let asked = 0
watch([() => state.drawing, smoothing, closed, () => state.stroke.length], async () => {
  const mine = ++asked
  if (!props.panel || state.drawing || !strokes.value || state.stroke.length < 2) return
  const within = smoothing.value
  const { data, error } = await client.POST('/api/stroke', { body: { stroke: state.stroke, smoothing: within, closed: closed.value } })
  if (mine !== asked) return
  state.preview = data ? { ...data, within } : null
  state.why = data ? '' : refusalOf(error).message
})

function command(known: Size | null): Command | null {
  const part = picked.partId
  const { stroke } = state
  if (!part || stroke.length < 2) return null
  if (mode.mode === 'draw a shape') return { do: 'draw stroke', part, id: shapes.fresh(1, 'drawn')[0] ?? 'drawn', stroke, smoothing: smoothing.value, closed: state.closed, does: state.does as Schemas['DrawStroke']['does'] }
  if (mode.mode === 'draw the outline') return { do: 'draw stroke', part, id: '', stroke, smoothing: smoothing.value, closed: true, does: 'cut out' }
  if (mode.mode === 'redraw a piece' || mode.mode === 'make straight') return { do: 'redraw piece', part, id: picked.cutoutId ?? '', stroke, smoothing: smoothing.value, straight: mode.mode === 'make straight' }
  const [first, second] = stroke
  if (mode.mode === 'set to scale' && known && picked.cutoutId && first && second) return { do: 'set to scale', part, id: picked.cutoutId, first, second, length: known }
  return null
}

async function take(known: Size | null = null): Promise<Refusal | null> {
  const asked = command(known)
  if (!asked) return null
  const answer = await edits.edit(asked)
  if (answer) {
    state.why = answer.message
    if (presses.value) state.stroke = []
    return answer
  }
  if (asked.do === 'draw stroke' && asked.id) picked.pick({ cutoutId: asked.id })
  mode.be('choose')
  return null
}

const distance = computed(() => {
  const [a, b] = state.stroke
  return a && b ? Math.hypot(a.x - b.x, a.y - b.y) : 0
})

useEventListener(window, 'keydown', (event) => {
  if (!props.panel || mode.mode === 'choose') return
  if (event.key === 'Escape') mode.be('choose')
  if (event.key === 'Enter' && strokes.value && state.preview) void take()
})
</script>

<template>
  <template v-if="!panel">
    <g v-if="strokes || presses">
      <rect class="pad" :width="view.width.value" :height="view.height.value" @pointerdown="press" @pointermove="move" @pointerup="drop" />
      <polyline v-if="strokes" class="stroke" :points="state.stroke.map((s) => `${view.toScreen(s.x, s.y).x},${view.toScreen(s.x, s.y).y}`).join(' ')" />
      <circle v-for="(spot, index) in presses ? state.stroke : []" :key="index" class="spot" :cx="view.toScreen(spot.x, 0).x" :cy="view.toScreen(0, spot.y).y" r="4" />
      <g :transform="view.place.value"><path v-if="state.preview" class="preview" :d="state.preview.path" vector-effect="non-scaling-stroke" /></g>
    </g>
  </template>
  <div v-else-if="ASKS[mode.mode]" class="hand" role="group" aria-label="Drawn by hand">
    <p>{{ ASKS[mode.mode] }}</p>
    <template v-if="strokes">
      <p class="smooth"><span aria-hidden="true">Smoothing</span> <SpanSlider v-model="state.smooth" label="Smoothing" /></p>
      <template v-if="mode.mode === 'draw a shape'">
        <TickField :value="state.closed" :save="(now) => { state.closed = now }">Closed</TickField>
        <ChoiceField label="It is" :value="state.does" :options="DOES" :names="{ add: 'added', pocket: 'sunk', score: 'scored', engrave: 'engraved', fill: 'engraved all over' }" :save="(does) => { state.does = does }" />
      </template>
      <p v-if="state.preview" role="status">{{ state.preview.points }} points, {{ state.preview.arcs }} lines and arcs; within {{ withUnit(state.preview.within, workshop.unit) }} or so</p>
    </template>
    <SizeField v-if="mode.mode === 'set to scale' && state.stroke.length === 2" label="They are apart" :size="typed(distance, workshop.unit)" :save="take" />
    <p v-if="state.why" class="why" role="alert">{{ state.why }}</p>
    <p class="in-line">
      <ActButton v-if="state.preview && strokes" look="main" @click="take()">Take it</ActButton>
      <ActButton v-if="state.stroke.length" @click="mode.again()">Draw it again</ActButton>
      <ActButton @click="mode.be('choose')">Give up</ActButton>
    </p>
  </div>
</template>

<style scoped>
.pad { fill: transparent; cursor: crosshair; }
.stroke { fill: none; stroke: var(--soft-ink); stroke-width: 1; pointer-events: none; }
.preview { fill: none; stroke: var(--accent); stroke-width: 2; pointer-events: none; }
.spot { fill: var(--accent); pointer-events: none; }
.hand { position: absolute; left: 28px; top: 28px; width: 270px; background: var(--paper); border: 1px solid var(--ink); padding: 8px 10px; display: grid; gap: 6px; z-index: 4; }
.smooth { display: grid; grid-template-columns: auto 1fr; gap: 10px; align-items: center; color: var(--soft-ink); }
</style>

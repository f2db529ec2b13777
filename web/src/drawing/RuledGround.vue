<script setup lang="ts">
import { computed, ref } from 'vue'

import { INCH } from '../api/tables'
import { useWorkshop } from '../state/workshop'
import { held, takenAway } from './fingers'
import type { Spot } from './spot'
import { useView, type Box } from './view'
import ActButton from '../kit/ActButton.vue'

/** The plain ground of a drawing, with a rule along two sides that shows its true scale. */
const props = defineProps<{ box: Box; label: string; frames?: boolean; fills?: boolean; tight?: boolean }>()
const emit = defineEmits<{ ground: []; framed: [box: Box] }>()

const workshop = useWorkshop()
const frame = ref<HTMLElement | null>(null)
const view = useView(frame, () => props.box, props.tight ? { x: 44, y: 62 } : undefined, props.fills ? 4000 : undefined)

const BAND = 18

/** Steps of the rule in mm: the finest whose numbers do not run into one another. */
const steps = computed(() => {
  const unit = workshop.unit === 'in' ? INCH : 1
  const choices = workshop.unit === 'in' ? [1 / 64, 1 / 32, 1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 5, 10, 20, 50] : [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000]
  const named = choices.find((step) => step * unit * view.scale.value >= 46) ?? choices[choices.length - 1] ?? 1
  return { named: named * unit, fine: (named * unit) / (workshop.unit === 'in' ? 4 : 5), unit }
})

function ticks(from: number, to: number): { at: number; name: string }[] {
  const { fine, named, unit } = steps.value
  const found = []
  for (let i = Math.ceil(from / fine); i * fine <= to && found.length < 600; i++) {
    const at = i * fine
    const whole = Math.abs(at / named - Math.round(at / named)) < 1e-6
    found.push({ at, name: whole ? String(Number((at / unit).toFixed(3))) : '' })
  }
  return found
}

const across = computed(() => {
  const from = view.toDrawing({ x: BAND, y: 0 }).x
  return ticks(from, view.toDrawing({ x: view.width.value, y: 0 }).x)
})
const up = computed(() => {
  const from = view.toDrawing({ x: 0, y: view.height.value }).y
  return ticks(from, view.toDrawing({ x: 0, y: BAND }).y)
})

const rubber = ref<{ from: Spot; to: Spot } | null>(null)

/** A frame dragged over the ground, which tells what it was dragged over. */
function frameUp(event: PointerEvent): void {
  const at = frame.value?.getBoundingClientRect() ?? { left: 0, top: 0 }
  const from = { x: event.clientX - at.left, y: event.clientY - at.top }
  const to = (e: PointerEvent): Spot => ({ x: e.clientX - at.left, y: e.clientY - at.top })
  view.drag(event, (_, __, e) => { rubber.value = { from, to: to(e) } }, (_, __, e) => {
    rubber.value = null
    const [a, b] = [view.toDrawing(from), view.toDrawing(to(e))]
    emit('framed', { left: Math.min(a.x, b.x), right: Math.max(a.x, b.x), bottom: Math.min(a.y, b.y), top: Math.max(a.y, b.y) })
  })
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  if (props.frames && event.shiftKey) {
    frameUp(event)
    return
  }
  emit('ground')
  view.pan(event)
  if (props.frames) held(event, () => {
    takenAway(event)
    frameUp(event)
  })
}

function key(event: KeyboardEvent): void {
  const middle = { x: view.width.value / 2, y: view.height.value / 2 }
  if (event.key === '+' || event.key === '=') view.zoomAt(middle, 1.25)
  else if (event.key === '-') view.zoomAt(middle, 0.8)
  else if (event.key === '0') view.fit()
}

defineExpose({ view, frame })
</script>

<template>
  <div ref="frame" class="ground" tabindex="0" :aria-label="label" role="group" @keydown="key">
    <svg class="sheet" :width="view.width.value" :height="view.height.value" @pointerdown.self="press">
      <slot :view="view" />
      <rect v-if="rubber" class="rubber" :x="Math.min(rubber.from.x, rubber.to.x)" :y="Math.min(rubber.from.y, rubber.to.y)" :width="Math.abs(rubber.to.x - rubber.from.x)" :height="Math.abs(rubber.to.y - rubber.from.y)" />
    </svg>
    <svg class="rule" :width="view.width.value" :height="view.height.value" aria-hidden="true">
      <rect class="band" x="0" y="0" :width="view.width.value" :height="BAND" />
      <rect class="band" x="0" y="0" :width="BAND" :height="view.height.value" />
      <g v-for="tick in across" :key="`x${tick.at}`">
        <line :x1="view.toScreen(tick.at, 0).x" :x2="view.toScreen(tick.at, 0).x" :y1="tick.name ? 5 : 13" :y2="BAND" />
        <text v-if="tick.name" :x="view.toScreen(tick.at, 0).x + 2" y="10">{{ tick.name }}</text>
      </g>
      <g v-for="tick in up" :key="`y${tick.at}`">
        <line :y1="view.toScreen(0, tick.at).y" :y2="view.toScreen(0, tick.at).y" :x1="tick.name ? 5 : 13" :x2="BAND" />
        <text v-if="tick.name" :transform="`translate(10 ${view.toScreen(0, tick.at).y - 2}) rotate(-90)`">{{ tick.name }}</text>
      </g>
      <rect class="corner" x="0" y="0" :width="BAND" :height="BAND" />
      <text class="corner-unit" :x="BAND / 2" y="12">{{ workshop.unit }}</text>
    </svg>
    <div class="overlay"><slot name="overlay" :view="view" /></div>
    <div class="zoom">
      <ActButton title="Key: 0" @click="view.fit">Whole drawing</ActButton>
      <ActButton aria-label="Larger" title="Key: +" @click="view.zoomAt({ x: view.width.value / 2, y: view.height.value / 2 }, 1.4)">Larger</ActButton>
      <ActButton aria-label="Smaller" title="Key: -" @click="view.zoomAt({ x: view.width.value / 2, y: view.height.value / 2 }, 0.7)">Smaller</ActButton>
    </div>
  </div>
</template>

<style scoped>
.ground { position: relative; overflow: hidden; height: 100%; background: var(--ground); touch-action: none; }
.ground:focus-visible { outline-offset: -2px; }
.sheet { position: absolute; inset: 0; display: block; }
.rubber { fill: rgb(23 63 143 / 6%); stroke: var(--accent); stroke-width: 0.8; stroke-dasharray: 4 3; }
.rule { position: absolute; inset: 0; pointer-events: none; }
.rule line { stroke: var(--soft-ink); stroke-width: 0.7; }
.rule text { font-size: 8.5px; fill: var(--soft-ink); }
.band { fill: var(--ground); stroke: var(--faint-rule); }
.corner { fill: var(--ground); }
.rule .corner-unit { text-anchor: middle; font-size: 8px; }
.overlay { position: absolute; inset: 0; pointer-events: none; }
.overlay :deep(> *) { pointer-events: auto; }
.zoom { position: absolute; right: 8px; bottom: 6px; display: flex; gap: 12px; font-size: 11.5px; }
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Spot } from '../drawing/spot'
import type { View } from '../drawing/view'
import { useEdits } from '../state/edits'
import { useDragging } from './dragging'
import { HOLES } from './holes'
import { useShapes } from './shapes'
import { meant, turnedBy } from './spacing'

/** A knob above the chosen shape that turns it about the point that it is placed by. */
const props = defineProps<{ view: View }>()
const shapes = useShapes()
const edits = useEdits()
const dragging = useDragging()

const cut = computed(() => shapes.alone)
const shown = computed(() => shapes.aloneShown)
/** The angle (degrees) that it is turned to while its knob is drawn. */
const drawn = ref<number | null>(null)

const turn = computed(() => shapes.value('turn') ?? Number(cut.value?.turn.text))
/** What is turned by a sum, or looks the same anyhow, is turned by its number alone. */
const turns = computed(() => cut.value && !HOLES[cut.value.hole.kind].round && Number.isFinite(turn.value))

function round({ x, y }: Spot, degrees: number): Spot {
  const angle = (degrees * Math.PI) / 180
  return { x: x * Math.cos(angle) - y * Math.sin(angle), y: x * Math.sin(angle) + y * Math.cos(angle) }
}

/** Where the knob is (mm): above the middle of its upper side, turned as it is, or is drawn. */
const knob = computed<Spot | null>(() => {
  const at = shown.value
  if (!at || !turns.value) return null
  const { left, right, bottom, top } = at.box
  const middle = at.spots[0] ?? { x: (left + right) / 2, y: (bottom + top) / 2 }
  const above = round({ x: 0, y: at.height / 2 + 26 / props.view.scale.value }, turn.value)
  const from = round({ x: middle.x + above.x - at.x, y: middle.y + above.y - at.y }, (drawn.value ?? turn.value) - turn.value)
  return { x: at.x + from.x, y: at.y + from.y }
})

const seen = computed(() => {
  if (!knob.value || !shown.value) return null
  const { x, y } = dragging.way
  return props.view.toScreen(knob.value.x + x, knob.value.y + y)
})

function pull(event: PointerEvent): void {
  const from = knob.value
  const about = shown.value
  if (event.button !== 0 || !from || !about) return
  event.stopPropagation()
  const begun = turn.value
  const to = (x: number, y: number, e: PointerEvent): number => meant(begun + turnedBy(about, from, { x, y }), e.altKey)
  dragging.held = true
  props.view.drag(
    event,
    (x, y, e) => { drawn.value = to(x, y, e) },
    async (x, y, e) => {
      dragging.held = false
      const angle = { text: String(to(x, y, e)), unit: 'mm' as const }
      if (Math.hypot(x, y) * props.view.scale.value > 3) await edits.told(shapes.put(() => ({ turn: angle })))
      drawn.value = null
    },
  )
}

const turned = computed(() => (shown.value && drawn.value !== null ? `${props.view.place.value} rotate(${turn.value - drawn.value} ${shown.value.x} ${-shown.value.y})` : ''))
</script>

<template>
  <g v-if="shown && seen">
    <path v-if="turned" class="turned" :d="shown.path" :transform="turned" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
    <circle class="knob" :cx="seen.x" :cy="seen.y" r="6" aria-hidden="true" @pointerdown="pull"><title>Drag to turn it; Alt leaves the angle free</title></circle>
    <text v-if="drawn !== null" class="says" :x="seen.x + 12" :y="seen.y - 8">{{ drawn }}°</text>
  </g>
</template>

<style scoped>
.knob { fill: var(--paper); stroke: var(--accent); stroke-width: 1.6; cursor: grab; }
.turned { fill: none; stroke: var(--accent); stroke-width: 1.4; stroke-dasharray: 5 3; pointer-events: none; }
.says { font-size: 12px; font-weight: 600; fill: var(--accent); paint-order: stroke; stroke: var(--paper); stroke-width: 3px; pointer-events: none; }
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Repeat } from '../api/client'
import type { Spot } from '../drawing/spot'
import type { View } from '../drawing/view'
import { typed, withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { useDragging } from './dragging'
import { useShapes } from './shapes'
import { drawnSteps, firstOf, meant, placeOf, turnedBy } from './spacing'
import { stepAt } from './steps'

/** The places of a repeat: dragged, they draw its steps longer; pressed, each is left out where it stands. */
const props = defineProps<{ view: View }>()
const picked = useChoice()
const edits = useEdits()
const workshop = useWorkshop()
const dragging = useDragging()
const shapes = useShapes()

const shape = computed(() => shapes.aloneShown)
const drawn = ref<{ place: number; way: Spot; steps: Record<string, number> } | null>(null)

function toggle(place: number, out: boolean): void {
  if (picked.partId && shape.value) void edits.change({ do: 'leave out', part: picked.partId, id: shape.value.id, place, out: !out })
}

/** Whether a place draws its step: not the first one, no twin in the mirror, and nothing that goes round corners. */
function drawsStep(index: number): boolean {
  const { alone } = shapes
  if (!alone || index === 0 || alone.repeat.kind === 'along the edge') return false
  return index === firstOf(placeOf(index, alone.twin), alone.twin)
}

/** What the steps become (mm, or degrees round a point) once a place lies so far from where it is. */
function stepsBy(repeat: Repeat, index: number, way: Spot, free: boolean): Record<string, number> {
  const { alone: cutout } = shapes
  const { partShown } = picked
  const spots = shape.value?.spots
  const spot = spots?.[index]
  const first = spots?.[0]
  if (!cutout || !partShown || !spot || !first || !drawsStep(index)) return {}
  const place = placeOf(index, cutout.twin)
  const value = (field: string): number => shapes.value(`repeat/${field}`) ?? 0
  if (repeat.kind === 'grid') {
    const now = { step_x: value('step_x'), step_y: value('step_y') }
    const beside = { x: spots[firstOf(1, cutout.twin)] ?? first, y: spots[firstOf(repeat.columns, cutout.twin)] ?? first }
    const away = { x: Math.sign((beside.x.x - first.x) * now.step_x) || 1, y: Math.sign((beside.y.y - first.y) * now.step_y) || 1 }
    return { ...drawnSteps(repeat, place, way, now, away, free ? 1e-3 : stepAt(props.view.scale.value, workshop.unit)) }
  }
  if (repeat.kind !== 'round a point') return {}
  const middle = { x: partShown.width / 2 + value('x'), y: partShown.height / 2 + value('y') }
  const now = value('step') || 360 / repeat.count
  // A step of nothing would be all the way round.
  return { step: meant(now + turnedBy(middle, spot, way) / place, free) || 1 }
}

function press(event: PointerEvent, index: number, out: boolean): void {
  event.stopPropagation()
  const { alone: cutout } = shapes
  if (event.button !== 0 || !cutout) return
  const { repeat } = cutout
  const goes = (x: number, y: number): boolean => Math.hypot(x, y) * props.view.scale.value > 3
  dragging.held = true
  props.view.drag(
    event,
    (x, y, e) => { drawn.value = drawsStep(index) && goes(x, y) ? { place: index, way: { x, y }, steps: stepsBy(repeat, index, { x, y }, e.altKey) } : null },
    async (x, y, e) => {
      dragging.held = false
      const steps = goes(x, y) ? stepsBy(repeat, index, { x, y }, e.altKey) : {}
      if (e.type === 'pointerup' && !goes(x, y)) toggle(index, out)
      else if (Object.keys(steps).length) await edits.told(saveSteps(repeat, steps))
      drawn.value = null
    },
  )
}

function saveSteps(repeat: Repeat, steps: Record<string, number>): ReturnType<typeof shapes.put> {
  const sizes = Object.fromEntries(Object.entries(steps).map(([field, step]) => [field, repeat.kind === 'round a point' ? { text: String(step), unit: 'mm' as const } : typed(step, workshop.unit)]))
  return shapes.put((one) => ({ repeat: { ...one.repeat, ...sizes } as Repeat }))
}

const says = computed(() => {
  const round = shapes.alone?.repeat.kind === 'round a point'
  return Object.values(drawn.value?.steps ?? {}).map((step) => (round ? `${step}°` : withUnit(step, workshop.unit))).join(' × ')
})

/** Where a place is seen: as far as it is dragged. */
function at(spot: Spot, index: number): Spot {
  const way = drawn.value?.place === index ? drawn.value.way : { x: 0, y: 0 }
  return props.view.toScreen(spot.x + way.x, spot.y + way.y)
}
</script>

<template>
  <g v-if="shape">
    <g v-for="(spot, index) in shape.spots" :key="index">
      <circle
        class="spot"
        :class="{ out: spot.out }"
        :cx="at(spot, index).x"
        :cy="at(spot, index).y"
        r="5"
        tabindex="0"
        role="button"
        :aria-label="`Place ${index + 1} of ${shape.called}${spot.out ? ', left out' : ''}`"
        :aria-pressed="!spot.out"
        @pointerdown="press($event, index, spot.out)"
        @keydown.enter.prevent="toggle(index, spot.out)"
        @keydown.space.prevent="toggle(index, spot.out)"
      >
        <title>{{ spot.out ? 'Left out: press to take it in' : 'Press to leave this one out' }}{{ drawsStep(index) ? ', drag to set the step' : '' }}</title>
      </circle>
      <text v-if="drawn?.place === index && says" class="says" :x="at(spot, index).x + 10" :y="at(spot, index).y - 10">{{ says }}</text>
    </g>
  </g>
</template>

<style scoped>
.spot { fill: var(--accent); stroke: #fff; stroke-width: 1; cursor: pointer; outline: none; }
.spot.out { fill: var(--ground); stroke: var(--accent); stroke-dasharray: 2 2; }
.spot:focus-visible { stroke: var(--ink); stroke-width: 3; }
.says { font-size: 12px; font-weight: 600; fill: var(--accent); paint-order: stroke; stroke: var(--paper); stroke-width: 3px; pointer-events: none; }
</style>

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { CutOut, Size } from '../api/client'
import type { Spot } from '../drawing/spot'
import type { View } from '../drawing/view'
import SizeField from '../kit/SizeField.vue'
import TextInput from '../kit/TextInput.vue'
import { typed, withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { useDragging } from './dragging'
import { HOLES } from './holes'
import { drawnSizes, grip, grown, ownSizes } from './ownSizes'
import { useShapes } from './shapes'
import { stepAt } from './steps'

/** The chosen shape's own sizes where it lies, to be typed there; its corner is drawn to make it larger or smaller. */
const props = defineProps<{ view: View; grips?: boolean }>()
const workshop = useWorkshop()
const picked = useChoice()
const shapes = useShapes()
const edits = useEdits()
const dragging = useDragging()

type Hole = CutOut['hole']
const cut = computed(() => shapes.alone)
const shown = computed(() => shapes.aloneShown)
const fields = computed(() => (cut.value ? ownSizes(cut.value.hole) : []))
const angles = computed(() => (cut.value ? (HOLES[cut.value.hole.kind].angles ?? []) : []))
const canTurn = computed(() => cut.value && !HOLES[cut.value.hole.kind].round)

function sizeOf(field: string): Size {
  return (cut.value?.hole as unknown as Record<string, Size>)[field] ?? { text: '0', unit: 'mm' }
}

/** The words of a text, typed where they stand. */
const words = ref('')
const text = computed(() => (cut.value?.hole.kind === 'text' ? cut.value.hole.text : null))
watch(text, (now) => { words.value = now ?? '' }, { immediate: true })

async function saveWords(): Promise<void> {
  const typedWords = words.value.trim()
  if (!typedWords) words.value = text.value ?? ''
  else if (typedWords !== text.value && !(await edits.told(save({ text: typedWords })))) words.value = text.value ?? ''
}

function save(change: Record<string, Size | string>): Promise<Refusal | null> {
  return shapes.put((one) => ({ hole: { ...one.hole, ...change } as Hole }))
}

/** Lower than this (px) it is clear of what stands in the corner of the drawing. */
const UNDER = 92
const panel = useTemplateRef('panel')
const { width: wide } = useElementSize(panel, undefined, { box: 'border-box' })

/** Beside its upper right corner, clear of the numbers of its gaps, which stand in the middle of its sides: above the part where it would cover them to be seen. */
const place = computed(() => {
  const at = shown.value
  if (!at) return {}
  const { x, y } = dragging.way
  const corner = props.view.toScreen(at.box.right + x, at.box.top + y)
  const middle = props.view.toScreen((at.box.left + at.box.right) / 2 + x, 0).x
  const room = props.view.width.value - wide.value - 6
  const wanted = Math.max(corner.x + 10, middle + 36)
  const top = wanted > room ? Math.min(corner.y, props.view.toScreen(0, picked.partShown?.height ?? 0).y) : corner.y
  return { left: `${Math.max(24, Math.min(wanted, room))}px`, top: `${Math.max(UNDER, top - 8)}px` }
})

/** A turned shape, or one of many, is made larger by its numbers alone. */
const hasGrip = computed(() => cut.value && fields.value.length > 0 && shown.value && !shown.value.spots.length && cut.value.turn.text.trim() === '0' && !cut.value.hole.kind.startsWith('arc') && cut.value.hole.kind !== 'sector')
const pulled = computed(() => dragging.pulled)
const at = computed(() => {
  if (!hasGrip.value || !shown.value || !cut.value) return null
  const { box } = shown.value
  const which = grip(cut.value.point)
  return props.view.toScreen((which.x > 0 ? box.right : box.left) + dragging.way.x, (which.y > 0 ? box.top : box.bottom) + dragging.way.y)
})

function pull(event: PointerEvent): void {
  if (event.button !== 0 || !cut.value || !shown.value) return
  event.stopPropagation()
  const { hole, point } = cut.value
  const before = shown.value
  const now = Object.fromEntries(fields.value.map((field) => [field, shapes.value(field) ?? 0]))
  const sizes = (way: Spot, free: boolean): Record<string, number> => drawnSizes(hole, before, grown(point, way), now, free ? 1e-3 : stepAt(props.view.scale.value, workshop.unit))
  dragging.held = true
  props.view.drag(
    event,
    (x, y, e) => { dragging.pulled = sizes({ x, y }, e.altKey) },
    async (x, y, e) => {
      dragging.held = false
      if (Math.hypot(x, y) * props.view.scale.value > 3) await edits.told(save(Object.fromEntries(Object.entries(sizes({ x, y }, e.altKey)).map(([field, mm]) => [field, typed(mm, workshop.unit)]))))
      dragging.pulled = null
    },
  )
}

/** As it will be, while its corner is drawn: its outline stretched about the point that stays. */
const stretched = computed(() => {
  if (!pulled.value || !shown.value || !cut.value) return ''
  const { x, y, width, height } = shown.value
  const [first = '', second] = Object.keys(pulled.value)
  const one = (pulled.value[first] ?? 0) / (first === 'width' && second ? width : (shapes.value(first) ?? 1))
  const by = { x: one, y: second ? (pulled.value[second] ?? 0) / height : one }
  return `${props.view.place.value} translate(${x} ${-y}) scale(${by.x} ${by.y}) translate(${-x} ${y})`
})
const says = computed(() => Object.values(pulled.value ?? {}).map((mm) => withUnit(mm, workshop.unit)).join(' × '))
</script>

<template>
  <g v-if="grips && shown && at">
    <path v-if="pulled" class="stretched" :d="shown.path" :transform="stretched" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
    <rect class="grip" :x="at.x - 5" :y="at.y - 5" width="10" height="10" aria-hidden="true" @pointerdown="pull" />
  </g>
  <div v-else-if="!grips && cut && shown && (fields.length || canTurn)" ref="panel" class="own-sizes" :class="{ held: dragging.held }" :style="place" role="group" :aria-label="`Sizes of ${shown.called}`">
    <span v-if="pulled" class="pulled">{{ says }}</span>
    <TextInput v-if="text !== null && !pulled" v-model="words" :label="`Words of ${shown.called}`" :most="60" :wide="Math.max(6, words.length + 1)" @keydown.enter="saveWords" @blur="saveWords" />
    <template v-for="field in pulled ? [] : fields" :key="field">
      <SizeField :label="`${HOLES[cut.hole.kind].sizes[field]} of ${shown.called}`" :size="sizeOf(field)" :value="shapes.value(field)" :save="(size) => save({ [field]: size })" small hide-label />
      <span class="is" aria-hidden="true">{{ field === 'radius' ? 'R' : field === 'diameter' || field === 'inner' ? '⌀' : field === 'width' ? 'w' : 'h' }}</span>
    </template>
    <template v-if="!pulled">
      <template v-for="field in angles" :key="field">
        <SizeField :label="`Angle of ${shown.called}`" :size="sizeOf(field)" :save="(size) => save({ [field]: size })" bare small hide-label />
        <span class="is" aria-hidden="true">°</span>
      </template>
      <template v-if="canTurn">
        <SizeField :label="`Turn of ${shown.called}`" :size="cut.turn" :save="(turn) => shapes.put(() => ({ turn }))" bare small hide-label />
        <span class="is" aria-hidden="true">° turned</span>
      </template>
    </template>
  </div>
</template>

<style scoped>
.grip { fill: var(--paper); stroke: var(--accent); stroke-width: 1.6; cursor: nwse-resize; }
.stretched { fill: none; stroke: var(--accent); stroke-width: 1.4; stroke-dasharray: 5 3; pointer-events: none; }
.own-sizes { position: absolute; width: max-content; display: flex; align-items: baseline; gap: 2px; transform: translateY(-100%); background: var(--ground); padding: 0 3px; z-index: 2; font-size: 12px; }
.own-sizes.held { pointer-events: none; }
.is { color: var(--soft-ink); font-size: 11px; margin-right: 4px; }
.pulled { font-weight: 600; color: var(--accent); padding: 4px; }
</style>

<script lang="ts">
/** What of the edges is seen and put: the rows that they belong to, holding tabs, or start points. */
export type Sees = 'rows' | 'tabs' | 'starts'
</script>

<script setup lang="ts">
import { ref } from 'vue'

import type { View } from '../drawing/view'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { onBed, onSheet, type Prepared } from './prepared'

/** Holding tabs and start points on the drawing: tabs are dragged along the edge, and taken away with a click. */
const props = defineProps<{ prepared: Prepared; view: View; sees: Sees }>()
const workshop = useWorkshop()
const edits = useEdits()

type Tab = Prepared['tabs'][number]
const held = ref<number | null>(null)
const by = ref({ x: 0, y: 0 })

function spot({ x, y }: { x: number; y: number }): { x: number; y: number } {
  const at = onBed(props.prepared.lies, { x, y })
  return props.view.toScreen(at.x, at.y)
}

/** How the mark is turned on the screen. */
function turned({ along_x, along_y }: Tab): number {
  const { cos, sin } = props.prepared.lies
  return (-Math.atan2(sin * along_x + cos * along_y, cos * along_x - sin * along_y) * 180) / Math.PI
}

function put(tab: Tab, to: { x: number; y: number } | null): void {
  const { part, copy_number, x, y } = tab
  void edits.change({ do: 'move tab', part, copy_number, at: { x, y }, to })
}

function press(event: PointerEvent, tab: Tab, at: number): void {
  if (props.sees !== 'tabs') return
  event.stopPropagation()
  held.value = at
  props.view.drag(
    event,
    (x, y) => { by.value = { x, y } },
    (x, y) => {
      held.value = null
      by.value = { x: 0, y: 0 }
      if (Math.hypot(x, y) * props.view.scale.value < 3) return put(tab, null)
      const here = onBed(props.prepared.lies, tab)
      put(tab, onSheet(props.prepared.lies, { x: here.x + x, y: here.y + y }))
    },
  )
}

function shift(at: number): string {
  return held.value === at ? `translate(${by.value.x * props.view.scale.value} ${-by.value.y * props.view.scale.value})` : ''
}

function name({ part, copy_number }: Tab): string {
  const found = workshop.document?.parts.find(({ id }) => id === part)
  return `${found?.name ?? part} ${copy_number}`
}
</script>

<template>
  <g v-for="(tab, at) in prepared.tabs" :key="`t${at}`" :transform="shift(at)">
    <rect
      class="tab"
      :class="{ live: sees === 'tabs' }"
      x="-5"
      y="-4"
      width="10"
      height="8"
      :transform="`translate(${spot(tab).x} ${spot(tab).y}) rotate(${turned(tab)})`"
      :tabindex="sees === 'tabs' ? 0 : -1"
      role="button"
      :aria-label="`Holding tab of ${name(tab)}`"
      @pointerdown="press($event, tab, at)"
      @keydown.delete.prevent="put(tab, null)"
    />
  </g>
  <template v-if="sees === 'starts'">
    <path v-for="(start, at) in prepared.starts" :key="`s${at}`" class="start" d="M-5 -5L6 0L-5 5Z" :transform="`translate(${spot(start).x} ${spot(start).y}) rotate(${turned(start)})`" />
  </template>
</template>

<style scoped>
.tab { fill: var(--paper); stroke: var(--ink); stroke-width: 1.2; pointer-events: none; }
.tab.live { pointer-events: all; cursor: grab; stroke: var(--accent); stroke-width: 1.8; }
.start { fill: var(--accent); stroke: var(--paper); stroke-width: 1; pointer-events: none; }
</style>

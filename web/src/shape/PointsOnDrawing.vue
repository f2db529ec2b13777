<script setup lang="ts">
import { computed, ref } from 'vue'

import { nudge } from '../drawing/nudge'
import type { View } from '../drawing/view'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The points of what is chosen: of the one shape, or of the part's own curve. Dragged by hand, or moved by arrows. */
const props = defineProps<{ view: View }>()
const picked = useChoice()
const edits = useEdits()
const workshop = useWorkshop()

const shape = computed(() => (picked.cutoutIds.length === 1 ? picked.partShown?.cutouts.find((c) => c.id === picked.cutoutId) : undefined))
const points = computed(() => (picked.cutoutIds.length ? (shape.value?.points ?? []) : (picked.partShown?.knots ?? [])))
const dragged = ref({ index: -1, x: 0, y: 0 })

async function move(index: number, x: number, y: number): Promise<void> {
  const part = picked.partId
  if (!part) return
  if (shape.value) await edits.change({ do: 'move point', part, id: shape.value.id, index, x, y })
  else await edits.change({ do: 'reshape curve', id: part, knots: points.value.map((k, i) => (i === index ? { ...k, x: k.x + x, y: k.y + y } : k)) })
}

function press(event: PointerEvent, index: number): void {
  event.stopPropagation()
  props.view.drag(
    event,
    (x, y) => { dragged.value = { index, x, y } },
    async (x, y) => {
      if (Math.hypot(x, y) * props.view.scale.value > 2) await move(index, x, y)
      dragged.value = { index: -1, x: 0, y: 0 }
    },
  )
}

function key(event: KeyboardEvent, index: number): void {
  const by = nudge(event, workshop.unit)
  if (!by) return
  event.stopPropagation()
  void move(index, by.x, by.y)
}

function by(index: number, way: 'x' | 'y'): number {
  return dragged.value.index === index ? dragged.value[way] : 0
}
</script>

<template>
  <circle
    v-for="(knot, index) in points"
    :key="index"
    class="knot"
    :class="{ corner: knot.corner }"
    :cx="view.toScreen(knot.x + by(index, 'x'), 0).x"
    :cy="view.toScreen(0, knot.y + by(index, 'y')).y"
    r="5"
    tabindex="0"
    role="button"
    :aria-label="shape ? `Point ${index + 1} of ${shape.called}` : `Point ${index + 1} of the curve`"
    @pointerdown="press($event, index)"
    @keydown="key($event, index)"
  />
</template>

<style scoped>
.knot { fill: #fff; stroke: var(--accent); stroke-width: 1.6; cursor: move; outline: none; }
.knot.corner { fill: var(--accent); }
.knot:focus-visible { stroke-width: 4; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { CutOutShown } from '../api/client'
import { held } from '../drawing/fingers'
import type { View } from '../drawing/view'
import { useChoice } from '../state/choice'
import { useDragging } from './dragging'
import { useShapes } from './shapes'

/** The shapes on a part, to be chosen and dragged; those that stand from a dragged one go with it. */
const props = defineProps<{ view: View; shapes: CutOutShown[] }>()
const picked = useChoice()
const chosen = useShapes()
const dragging = useDragging()

const lettered = computed(() => new Set(picked.part?.cutouts.filter((c) => c.hole.kind === 'text').map((c) => c.id)))

/** Which shapes go with the chosen ones, across and up. */
const following = computed(() => {
  const typed = new Map(picked.part?.cutouts.map((c) => [c.id, c]))
  const goes = (id: string, of: 'x_of' | 'y_of', steps = 0): boolean => {
    if (chosen.chosen.has(id)) return true
    const from = typed.get(id)?.[of]
    return !!from && steps < 500 && goes(from, of, steps + 1)
  }
  return new Map(props.shapes.map(({ id }) => [id, { x: goes(id, 'x_of'), y: goes(id, 'y_of') }]))
})

const sets = computed(() =>
  [[false, false], [true, false], [false, true], [true, true]].map(([x, y]) => ({
    x: x === true,
    y: y === true,
    shapes: props.shapes.filter(({ id, hidden }) => !hidden && following.value.get(id)?.x === x && following.value.get(id)?.y === y),
  })),
)

function press(event: PointerEvent, id: string): void {
  if (event.button !== 0) return
  event.stopPropagation()
  const inside = event.detail > 1
  if (event.shiftKey) {
    chosen.choose(id, { more: true })
    return
  }
  const before = chosen.ids
  if (!chosen.chosen.has(id) || inside) chosen.choose(id, { inside })
  held(event, () => picked.pick({ cutoutIds: [...before.filter((one) => one !== id), id] }))
  dragging.press(event, props.view)
}

function key(event: KeyboardEvent, id: string): void {
  if (event.key !== ' ' && event.key !== 'Enter') return
  event.preventDefault()
  chosen.choose(id, { more: event.shiftKey })
}
</script>

<template>
  <g :transform="view.place.value">
    <g v-for="(set, index) in sets" :key="index" class="set" :transform="set.x || set.y ? `translate(${set.x ? dragging.way.x : 0} ${set.y ? -dragging.way.y : 0})` : undefined">
      <path
        v-for="shape in set.shapes"
        :key="shape.id"
        :d="shape.path"
        class="hole"
        :class="{ chosen: chosen.chosen.has(shape.id), last: shape.id === picked.cutoutId && chosen.ids.length > 1, letters: lettered.has(shape.id), material: shape.does === 'add' || shape.does === 'keep' }"
        vector-effect="non-scaling-stroke"
        tabindex="0"
        role="button"
        :aria-label="shape.called"
        :aria-pressed="chosen.chosen.has(shape.id)"
        @keydown="key($event, shape.id)"
        @pointerdown="press($event, shape.id)"
      />
    </g>
  </g>
</template>

<style scoped>
.set { will-change: transform; }
.hole { fill: transparent; stroke: transparent; stroke-width: 5; cursor: move; outline: none; }
.hole.material { stroke: rgb(23 63 143 / 45%); stroke-width: 1; stroke-dasharray: 2 3; }
.hole:hover { stroke: rgb(23 63 143 / 30%); }
.hole:focus-visible { stroke: var(--accent); stroke-width: 4; }
.hole.letters { pointer-events: bounding-box; }
.hole.chosen { stroke: var(--accent); stroke-width: 1.8; fill: rgb(23 63 143 / 9%); }
.hole.chosen.last { stroke-width: 3; }
</style>

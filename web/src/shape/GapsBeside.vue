<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import type { View } from '../drawing/view'
import SizeField from '../kit/SizeField.vue'
import { plain, typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { gapsBeside, round, type Gap } from './beside'
import { useDragging } from './dragging'
import { useShapes } from './shapes'

/** How far what is chosen is from its neighbours on all four sides; a gap is typed where it stands, and then kept. */
const props = defineProps<{ view: View; lines?: boolean }>()
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const shapes = useShapes()
const dragging = useDragging()

const SIDES = { left: 'Gap to the left', right: 'Gap to the right', bottom: 'Gap below', top: 'Gap above' }

/**
 * Where a number stands (pixels from the middle of its gap) that has no room there: over the neighbour, clear of those
 * of the other sides; at the part's edge over the shape, as its own sizes stand outside.
 */
const BESIDE = { left: { x: -30, y: -18 }, right: { x: 30, y: -18 }, top: { x: 0, y: -22 }, bottom: { x: 0, y: 22 } }
const WITHIN = { left: { x: 36, y: 0 }, right: { x: -36, y: 0 }, top: { x: 0, y: 24 }, bottom: { x: 0, y: -24 } }

const gaps = computed(() => {
  const shown = picked.partShown
  const boxes = shown?.cutouts.filter((c) => shapes.chosen.has(c.id)).map((c) => c.box) ?? []
  if (!shown || !boxes.length) return []
  const { x, y } = dragging.way
  const box = round(boxes)
  const moved = { left: box.left + x, right: box.right + x, bottom: box.bottom + y, top: box.top + y }
  const others = shown.cutouts.filter((c) => !shapes.chosen.has(c.id) && !c.hidden)
  return gapsBeside(moved, others, shown.width, shown.height).filter((gap) => gap.gap > 1e-6)
})

function place({ from, to, side, of }: Gap): { left: string; top: string } {
  const at = props.view.toScreen((from[0] + to[0]) / 2, (from[1] + to[1]) / 2)
  const short = Math.hypot(to[0] - from[0], to[1] - from[1]) * props.view.scale.value < 46
  // Where a gap is too short for its number, that stands beside its line.
  const off = short ? (of ? BESIDE : WITHIN)[side] : { x: 0, y: 0 }
  return { left: `${at.x + off.x}px`, top: `${at.y + off.y}px` }
}

function ends({ from, to }: Gap): { x1: number; y1: number; x2: number; y2: number } {
  const a = props.view.toScreen(...from)
  const b = props.view.toScreen(...to)
  return { x1: a.x, y1: a.y, x2: b.x, y2: b.y }
}

/** A gap of one shape is kept from then on; many are moved together by what is missing to it. */
function save(gap: Gap, size: Size): Promise<Refusal | null> {
  const id = picked.cutoutId
  if (shapes.ids.length === 1 && id && picked.partId) {
    return edits.edit({ do: 'set gap', part: picked.partId, id, side: gap.side, of: gap.of, gap: size })
  }
  const sign = gap.side === 'left' || gap.side === 'bottom' ? '' : '-'
  const by: Size = { text: `${sign}((${size.text}) - ${plain(gap.gap, size.unit)})`, unit: size.unit }
  const none = typed(0, workshop.unit)
  return gap.side === 'left' || gap.side === 'right' ? shapes.moveBy(by, none) : shapes.moveBy(none, by)
}
</script>

<template>
  <g v-if="lines" class="gaps">
    <line v-for="gap in gaps" :key="gap.side" v-bind="ends(gap)" />
  </g>
  <template v-else>
    <div v-for="gap in gaps" :key="gap.side" class="gap-field" :class="{ held: dragging.held }" :style="place(gap)">
      <SizeField :label="SIDES[gap.side]" :size="typed(gap.gap, workshop.unit)" :save="(size) => save(gap, size)" small hide-label />
    </div>
  </template>
</template>

<style scoped>
.gaps { pointer-events: none; stroke: var(--accent); stroke-width: 0.9; }
.gap-field { position: absolute; width: max-content; transform: translate(-50%, -50%); background: var(--ground); padding: 0 2px; z-index: 2; font-size: 12px; }
.overlay > .gap-field.held { pointer-events: none; }
</style>

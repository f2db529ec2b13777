<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'

import type { CutOut, Part, Size } from '../api/client'
import DimensionLine from '../drawing/DimensionLine.vue'
import { leadersTo } from '../drawing/leaders'
import { nudge } from '../drawing/nudge'
import RuledGround from '../drawing/RuledGround.vue'
import SizeField from '../kit/SizeField.vue'
import { typed } from '../kit/units'
import { useAddPart } from '../state/addPart'
import type { View } from '../drawing/view'
import { tint } from '../look/tint'
import { typeInPlace } from '../starters/inPlace'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { refusal, type Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import ShapeSettings from './ShapeSettings.vue'
import { isHeard } from '../frame/keys'
import StationFrame from '../frame/StationFrame.vue'
import ActButton from '../kit/ActButton.vue'

/** One part at a time: its sizes typed on the drawing, its cut-outs placed by number or by hand. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const addPart = useAddPart()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)

const part = computed(() => picked.part)
const shown = computed(() => picked.partShown)
const fill = computed(() => tint(workshop.document?.stocks.find((s) => s.id === part.value?.stock)))
const box = computed(() => {
  const { width = 100, height = 60, bounds } = shown.value ?? {}
  const { left = 0, bottom = 0, right = 0, top = 0 } = bounds ?? {}
  return { left: Math.min(0, left), bottom: Math.min(0, bottom), right: Math.max(width, right), top: Math.max(height, top) }
})
const cut = computed(() => picked.cutout)
const lettered = computed(() => new Set(part.value?.cutouts.filter((c) => c.hole.kind === 'text').map((c) => c.id)))
const cutShown = computed(() => shown.value?.cutouts.find((c) => c.id === picked.cutoutId) ?? null)

function putPart(change: (part: Part) => Partial<Part>): Promise<Refusal | null> {
  return edits.editPart(picked.partId ?? '', change)
}

/** A side of a part that a starter keeps is typed into the starter's number. */
function saveSize(which: 'width' | 'height', size: Size): Promise<Refusal | null> {
  const starter = workshop.document?.starters.find((one) => one.id === part.value?.starter)
  if (starter) {
    const driven = shown.value?.[`${which}_of`]
    if (driven) return typeInPlace(starter, driven, size, (changed) => edits.edit({ do: 'put starter', starter: changed }))
    return Promise.resolve(refusal(`Its ${which} follows from the numbers of its starter, on the right; change those, or let it go.`))
  }
  return putPart(({ shape }) => ({ shape: { ...shape, [which]: size } }))
}

function putCut(id: string, change: (cut: CutOut) => Partial<CutOut>): Promise<Refusal | null> {
  return putPart(({ cutouts }) => ({ cutouts: cutouts.map((c) => (c.id === id ? { ...c, ...change(c) } : c)) }))
}

function value(path: string): number | undefined {
  return workshop.shown?.values[`parts/${picked.partId}/${path}`]
}

// Moving a cut-out: while it is dragged only the drawing moves; the server hears of it when it is let go.

const dragged = ref({ x: 0, y: 0 })

/** Distances run into the part from the corner that a cut-out is placed from. */
function signs(origin: CutOut['origin']): { x: number; y: number } {
  return { x: origin.includes('right') ? -1 : 1, y: origin.includes('top') ? -1 : 1 }
}

async function moveCut(dx: number, dy: number): Promise<void> {
  const chosen = cut.value
  if (!chosen) return
  const sign = signs(chosen.origin)
  const x = (value(`cutouts/${chosen.id}/x`) ?? 0) + dx * sign.x
  const y = (value(`cutouts/${chosen.id}/y`) ?? 0) + dy * sign.y
  await edits.told(putCut(chosen.id, () => ({ x: typed(x, workshop.unit), y: typed(y, workshop.unit) })))
}

function press(event: PointerEvent, id: string): void {
  event.stopPropagation()
  picked.pick({ cutoutId: id })
  ground.value?.view.drag(
    event,
    (x, y) => { dragged.value = { x, y } },
    async (x, y) => {
      if (Math.hypot(x, y) * (ground.value?.view.scale.value ?? 1) > 3) await moveCut(x, y)
      dragged.value = { x: 0, y: 0 }
    },
  )
}

// Points of a curve move the same way: the dot while it is dragged, the curve when it is let go.

const draggedKnot = ref({ index: -1, x: 0, y: 0 })

async function moveKnot(index: number, dx: number, dy: number): Promise<void> {
  const id = picked.partId
  const knots = shown.value?.knots.map((knot, i) => (i === index ? { ...knot, x: knot.x + dx, y: knot.y + dy } : knot))
  if (id && knots) await edits.change({ do: 'reshape curve', id, knots })
}

function pressKnot(event: PointerEvent, index: number): void {
  event.stopPropagation()
  picked.pick({ cutoutId: null })
  ground.value?.view.drag(
    event,
    (x, y) => { draggedKnot.value = { index, x, y } },
    async (x, y) => {
      if (Math.hypot(x, y) * (ground.value?.view.scale.value ?? 1) > 2) await moveKnot(index, x, y)
      draggedKnot.value = { index: -1, x: 0, y: 0 }
    },
  )
}

function nudgeKnot(event: KeyboardEvent, index: number): void {
  const by = nudge(event, workshop.unit)
  if (!by) return
  event.stopPropagation()
  void moveKnot(index, by.x, by.y)
}

useEventListener(window, 'keydown', (event) => {
  if (!isHeard(event)) return
  const by = cut.value && nudge(event, workshop.unit)
  if (by) void moveCut(by.x, by.y)
  if (event.key === 'Delete' && cut.value) {
    const gone = cut.value.id
    void edits.told(putPart(({ cutouts }) => ({ cutouts: cutouts.filter((c) => c.id !== gone) })))
    picked.pick({ cutoutId: null })
  }
  if (event.key === 'Escape') picked.pick({ cutoutId: null })
})

/** A side as it was typed; of a part that a starter keeps, as it comes to. */
function side(which: 'width' | 'height'): Size {
  const typedSize = part.value?.shape[which] ?? { text: '', unit: 'mm' as const }
  return part.value?.starter && shown.value ? typed(shown.value[which], workshop.unit) : typedSize
}

/** The corner (or middle) that the chosen cut-out is measured from. */
const from = computed(() => {
  const origin = cut.value?.origin ?? 'bottom left'
  const width = shown.value?.width ?? 0
  const height = shown.value?.height ?? 0
  if (origin === 'middle') return { x: width / 2, y: height / 2 }
  return { x: origin.includes('right') ? width : 0, y: origin.includes('top') ? height : 0 }
})

/** Where a distance of the chosen cut-out is typed: on its line, or under the cut-out where the line is too short. */
function besideCut(view: View, way: 'x' | 'y'): { left: string; top: string } {
  const hole = cutShown.value ?? { x: 0, y: 0, width: 0, height: 0 }
  const short = Math.abs(from.value[way] - hole[way]) * view.scale.value < 70
  const x = way === 'x' && !short ? (from.value.x + hole.x) / 2 : hole.x
  const y = way === 'y' && !short ? (from.value.y + hole.y) / 2 : hole.y
  const under = short ? (hole.height / 2) * view.scale.value + (way === 'x' ? 20 : 48) : 0
  return { left: `${view.toScreen(x, 0).x}px`, top: `${view.toScreen(0, y).y + under}px` }
}

watchEffect(() => {
  const view = ground.value?.view
  if (!view) return
  const id = picked.partId
  const { toScreen } = view
  leadersTo(ground.value?.frame ?? null, (place) => {
    if (place.part !== id || place.x === null || place.x === undefined || place.y === null || place.y === undefined) return null
    return toScreen(place.x, place.y)
  })
})
</script>

<template>
  <StationFrame title="Part" fits>
    <template #drawing>
      <div v-if="!part" class="empty">
        <h2>No parts yet</h2>
        <p>A part is what you want to hold: a rectangle to begin with, then its corners and cut-outs. Its sizes are typed on the drawing.</p>
        <ActButton look="main" @click="addPart">Add the first part</ActButton>
      </div>
      <RuledGround v-else ref="ground" :box="box" :label="`Drawing of ${part.name}`" @ground="picked.pick({ cutoutId: null })">
        <template #default="{ view }">
          <g v-if="shown" :transform="view.place.value">
            <path :d="shown.path" :fill="fill" fill-rule="evenodd" class="finished" vector-effect="non-scaling-stroke" />
            <path :d="shown.pockets" class="pocket" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
            <path :d="shown.references" class="reference" vector-effect="non-scaling-stroke" />
            <path :d="shown.marks" class="mark" vector-effect="non-scaling-stroke" />
            <path :d="shown.base" class="intent" vector-effect="non-scaling-stroke" />
            <path
              v-for="hole in shown.cutouts"
              :key="hole.id"
              :d="hole.path"
              class="hole"
              :class="{ chosen: hole.id === picked.cutoutId, letters: lettered.has(hole.id), material: hole.does === 'add' || hole.does === 'keep' }"
              :transform="hole.id === picked.cutoutId ? `translate(${dragged.x} ${-dragged.y})` : undefined"
              vector-effect="non-scaling-stroke"
              tabindex="0"
              role="button"
              :aria-label="`Cut-out ${hole.id}`"
              @focus="picked.pick({ cutoutId: hole.id })"
              @keydown.space.prevent="picked.pick({ cutoutId: hole.id })"
              @pointerdown="press($event, hole.id)"
            />
          </g>
          <circle
            v-for="(knot, index) in shown?.knots"
            :key="`k${index}`"
            class="knot"
            :class="{ corner: knot.corner }"
            :cx="view.toScreen(knot.x + (draggedKnot.index === index ? draggedKnot.x : 0), 0).x"
            :cy="view.toScreen(0, knot.y + (draggedKnot.index === index ? draggedKnot.y : 0)).y"
            r="5"
            tabindex="0"
            role="button"
            :aria-label="`Point ${index + 1} of the curve`"
            @pointerdown="pressKnot($event, index)"
            @keydown="nudgeKnot($event, index)"
          />
          <template v-if="shown">
            <DimensionLine :view="view" :from="[0, 0]" :to="[shown.width, 0]" :off="26" />
            <DimensionLine :view="view" :from="[0, 0]" :to="[0, shown.height]" :off="-44" />
            <template v-if="cutShown">
              <line class="measure" :x1="view.toScreen(from.x, cutShown.y + dragged.y).x" :x2="view.toScreen(cutShown.x + dragged.x, 0).x" :y1="view.toScreen(0, cutShown.y + dragged.y).y" :y2="view.toScreen(0, cutShown.y + dragged.y).y" />
              <line class="measure" :x1="view.toScreen(cutShown.x + dragged.x, 0).x" :x2="view.toScreen(cutShown.x + dragged.x, 0).x" :y1="view.toScreen(0, from.y).y" :y2="view.toScreen(0, cutShown.y + dragged.y).y" />
            </template>
          </template>
        </template>
        <template #overlay="{ view }">
          <template v-if="shown">
            <div class="on-drawing" :style="{ left: `${view.toScreen(shown.width / 2, 0).x}px`, top: `${view.toScreen(0, 0).y + 26}px` }">
              <SizeField label="Width" :size="side('width')" :value="value('width')" :save="(size) => saveSize('width', size)" small hide-label />
            </div>
            <div class="on-drawing beside" :style="{ left: `${view.toScreen(0, 0).x - 8}px`, maxWidth: `${Math.max(70, view.toScreen(0, 0).x - 30)}px`, top: `${view.toScreen(0, shown.height / 2).y}px` }">
              <SizeField label="Height" :size="side('height')" :value="value('height')" :save="(size) => saveSize('height', size)" small hide-label />
            </div>
            <template v-if="cut && cutShown">
              <div class="on-drawing" :style="besideCut(view, 'x')">
                <SizeField label="Distance across" :size="cut.x" :value="value(`cutouts/${cut.id}/x`)" :save="(x) => putCut(cut!.id, () => ({ x }))" small hide-label />
              </div>
              <div class="on-drawing" :style="besideCut(view, 'y')">
                <SizeField label="Distance up" :size="cut.y" :value="value(`cutouts/${cut.id}/y`)" :save="(y) => putCut(cut!.id, () => ({ y }))" small hide-label />
              </div>
            </template>
          </template>
          <p v-else class="cannot">{{ part.name }} cannot be built as it is; see the margin notes.</p>
        </template>
      </RuledGround>
    </template>
    <ShapeSettings v-if="part" :part="part" :put-part="putPart" :put-cut="putCut" />
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.finished { stroke: var(--ink); stroke-width: 1.3; pointer-events: none; }
.mark { fill: none; stroke: #8a5a00; stroke-width: 1; pointer-events: none; }
.reference { fill: none; stroke: var(--soft-ink); stroke-width: 0.9; stroke-dasharray: 1 3; pointer-events: none; }
.intent { fill: none; stroke: var(--soft-ink); stroke-width: 0.7; stroke-dasharray: 7 4; pointer-events: none; }
.pocket { fill: rgb(28 36 51 / 16%); stroke: var(--ink); stroke-width: 0.9; stroke-dasharray: 3 2; pointer-events: none; }
.knot { fill: #fff; stroke: var(--accent); stroke-width: 1.6; cursor: move; outline: none; }
.knot.corner { fill: var(--accent); }
.knot:focus-visible { stroke-width: 4; }
.hole.material { stroke: rgb(23 63 143 / 45%); stroke-width: 1; stroke-dasharray: 2 3; }
.hole { fill: transparent; stroke: transparent; stroke-width: 5; cursor: move; outline: none; }
.hole:hover { stroke: rgb(23 63 143 / 30%); }
.hole.letters { pointer-events: bounding-box; }
.hole.chosen { stroke: var(--accent); stroke-width: 1.8; fill: rgb(23 63 143 / 9%); }
.measure { stroke: var(--accent); stroke-width: 0.9; }
.on-drawing { position: absolute; width: max-content; transform: translate(-50%, -50%); background: var(--ground); padding: 0 2px; z-index: 2; }
.on-drawing.beside { transform: translate(-100%, -50%); }
.cannot { position: absolute; left: 30%; top: 45%; color: var(--wrong); }
</style>

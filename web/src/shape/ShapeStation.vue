<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, watchEffect } from 'vue'

import type { CutOut, Part, Size } from '../api/client'
import DimensionLine from '../drawing/DimensionLine.vue'
import { leadersTo } from '../drawing/leaders'
import { nudge } from '../drawing/nudge'
import RuledGround from '../drawing/RuledGround.vue'
import SizeField from '../kit/SizeField.vue'
import { plain, typed } from '../kit/units'
import { useAddPart } from '../state/addPart'
import type { Box } from '../drawing/view'
import { tint } from '../look/tint'
import { typeInPlace } from '../starters/inPlace'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { refusal, type Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import BendsOnDrawing from './bent/BendsOnDrawing.vue'
import { useBends } from './bent/bends'
import ByHand from './ByHand.vue'
import CornersOnDrawing from './CornersOnDrawing.vue'
import GapsBeside from './GapsBeside.vue'
import { useMode } from './mode'
import PointsOnDrawing from './PointsOnDrawing.vue'
import ShapeSettings from './ShapeSettings.vue'
import ShapesOnDrawing from './ShapesOnDrawing.vue'
import PutShape from './PutShape.vue'
import StepsOnDrawing from './StepsOnDrawing.vue'
import StripOfShapes from './StripOfShapes.vue'
import OwnSizes from './OwnSizes.vue'
import SpotsOfRepeat from './SpotsOfRepeat.vue'
import TurnKnob from './TurnKnob.vue'
import WhileDragged from './WhileDragged.vue'
import { useShapes } from './shapes'
import { isHeard } from '../frame/keys'
import StationFrame from '../frame/StationFrame.vue'
import GoLink from '../kit/GoLink.vue'
import StarterPictures from '../starters/StarterPictures.vue'
import ActButton from '../kit/ActButton.vue'

/** One part at a time: its sizes typed on the drawing, its cut-outs placed by number or by hand. */
// What draws in space comes when something is seen there.
const FoldedView = defineAsyncComponent(() => import('./bent/FoldedView.vue'))

const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const addPart = useAddPart()
const shapes = useShapes()
const mode = useMode()
const bends = useBends()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)

const part = computed(() => picked.part)
const shown = computed(() => picked.partShown)
const fill = computed(() => tint(workshop.document?.stocks.find((s) => s.id === part.value?.stock)))
const box = computed(() => {
  const { width = 100, height = 60, bounds } = shown.value ?? {}
  const { left = 0, bottom = 0, right = 0, top = 0 } = bounds ?? {}
  return { left: Math.min(0, left), bottom: Math.min(0, bottom), right: Math.max(width, right), top: Math.max(height, top) }
})

/** Pictures laid under the part, by their keys, where they are shown. */
const pictures = computed(() =>
  (part.value?.cutouts ?? []).flatMap(({ id, hole, hidden }) => {
    const seen = shown.value?.cutouts.find((c) => c.id === id)
    return hole.kind === 'picture' && hole.picture && seen && !hidden ? [{ id, key: hole.picture, shown: seen }] : []
  }),
)

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

useEventListener(window, 'keydown', (event) => {
  if (!isHeard(event)) return
  const by = picked.cutoutIds.length ? nudge(event, workshop.unit) : null
  if (by) void shapes.move(by.x, by.y)
  const key = event.key.toLowerCase()
  if (event.ctrlKey || event.metaKey) {
    const act = { a: shapes.chooseAll, c: shapes.copy, x: () => void shapes.cut(), v: () => void shapes.paste() }[key]
    if (!act || window.getSelection()?.toString()) return
    event.preventDefault()
    act()
    return
  }
  if (key === 'delete') void shapes.remove()
  else if (key === 'escape') picked.pick({ cutoutId: null })
  else if (key === 'g') shapes.group()
  else if (key === 'u') shapes.ungroup()
})

/** Chooses all that lies wholly in a frame, beside what is chosen. */
function framed(frame: Box): void {
  const inside = shown.value?.cutouts.filter(({ box: b, hidden }) => !hidden && b.left >= frame.left && b.right <= frame.right && b.bottom >= frame.bottom && b.top <= frame.top) ?? []
  for (const { id } of inside) if (!shapes.chosen.has(id)) shapes.choose(id, { more: true })
}

/** A side as it was typed; of a part that a starter keeps, as it comes to. */
function side(which: 'width' | 'height'): Size {
  const typedSize = part.value?.shape[which] ?? { text: '', unit: 'mm' as const }
  return part.value?.starter && shown.value ? typed(shown.value[which], workshop.unit) : typedSize
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
        <h2>Or from a picture</h2>
        <StarterPictures :into="workshop.shown?.slug" />
        <h2>Or from a file</h2>
        <p><GoLink :to="`/projects/${workshop.shown?.slug}/way-in`">Bring a drawing</GoLink> that somebody made, or a mesh: dropped on this page it is read, mended and told first.</p>
      </div>
      <FoldedView v-else-if="bends.folded && part.bends.length" :part="part" />
      <div v-else class="split">
        <RuledGround ref="ground" :box="box" :label="`Drawing of ${part.name}`" frames @framed="framed" @ground="picked.pick({ cutoutId: null })">
          <template #default="{ view }">
            <g v-if="shown" class="still"><g :transform="view.place.value">
              <path :d="shown.path" :fill="fill" fill-rule="evenodd" class="finished" vector-effect="non-scaling-stroke" />
              <path :d="shown.pockets" class="pocket" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
              <image
                v-for="seen in pictures"
                :key="seen.id"
                :href="`/api/pictures/${seen.key}.jpg`"
                :transform="seen.shown.picture"
                :x="-seen.shown.width / 2"
                :y="-seen.shown.height / 2"
                :width="seen.shown.width"
                :height="seen.shown.height"
                preserveAspectRatio="none"
                class="picture"
              />
              <path :d="shown.references" class="reference" vector-effect="non-scaling-stroke" />
              <path :d="shown.border" class="border" vector-effect="non-scaling-stroke" />
              <path :d="shown.marks" class="mark" vector-effect="non-scaling-stroke" />
              <path :d="shown.base" class="intent" vector-effect="non-scaling-stroke" />
            </g></g>
            <ShapesOnDrawing v-if="shown" :view="view" :shapes="shown.cutouts" />
            <GapsBeside v-if="mode.mode === 'choose'" :view="view" lines />
            <OwnSizes v-if="mode.mode === 'choose'" :view="view" grips />
            <TurnKnob v-if="mode.mode === 'choose'" :view="view" />
            <WhileDragged :view="view" />
            <SpotsOfRepeat :view="view" />
            <PointsOnDrawing :view="view" />
            <BendsOnDrawing v-if="shown?.bends.length" :view="view" :bends="shown.bends" />
            <CornersOnDrawing v-if="mode.mode === 'take corners'" :view="view" />
            <g v-for="(place, index) in shown?.narrow" :key="`n${index}`" class="narrow">
              <circle :cx="view.toScreen(place.x, 0).x" :cy="view.toScreen(0, place.y).y" r="7" />
              <text v-if="index < 40" :x="view.toScreen(place.x, 0).x + 10" :y="view.toScreen(0, place.y).y + 4">{{ plain(place.gap, workshop.unit) }}</text>
            </g>
            <template v-if="shown">
              <DimensionLine :view="view" :from="[0, 0]" :to="[shown.width, 0]" :off="26" />
              <DimensionLine :view="view" :from="[0, 0]" :to="[0, shown.height]" :off="-44" />
            </template>
            <ByHand :view="view" />
            <PutShape v-if="mode.mode === 'put a shape'" :view="view" />
          </template>
          <template #overlay="{ view }">
            <ByHand :view="view" panel />
            <p v-if="mode.mode === 'put a shape'" class="asks" role="status">Press where it goes, or drag its size. Enter puts it in the middle, Esc puts it away.</p>
            <template v-if="shown">
              <div class="on-drawing" :style="{ left: `${view.toScreen(shown.width / 2, 0).x}px`, top: `${view.toScreen(0, 0).y + 26}px` }">
                <SizeField label="Width" :size="side('width')" :value="value('width')" :save="(size) => saveSize('width', size)" small hide-label />
              </div>
              <div class="on-drawing beside" :style="{ left: `${view.toScreen(0, 0).x - 8}px`, maxWidth: `${Math.max(70, view.toScreen(0, 0).x - 30)}px`, top: `${view.toScreen(0, shown.height / 2).y}px` }">
                <SizeField label="Height" :size="side('height')" :value="value('height')" :save="(size) => saveSize('height', size)" small hide-label />
              </div>
              <GapsBeside v-if="mode.mode === 'choose'" :view="view" />
              <OwnSizes v-if="mode.mode === 'choose'" :view="view" />
              <StepsOnDrawing v-if="mode.mode === 'choose'" :view="view" />
            </template>
            <p v-else class="cannot">{{ part.name }} cannot be built as it is; see the margin notes.</p>
          </template>
        </RuledGround>
        <StripOfShapes v-if="shown" />
      </div>
    </template>
    <template v-if="part?.bends.length" #which>
      <ActButton look="bare" :pressed="!bends.folded" @click="bends.folded = false">Flat</ActButton>
      <ActButton look="bare" :pressed="bends.folded" @click="bends.folded = true">Folded</ActButton>
    </template>
    <ShapeSettings v-if="part" :part="part" :put-part="putPart" :put-cut="putCut" />
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: minmax(0, 1fr) auto; min-width: 0; }
/* Kept as a picture of its own: what is dragged over it does not have it drawn again. */
.still { will-change: transform; }
.finished { stroke: var(--ink); stroke-width: 1.3; pointer-events: none; }
.mark { fill: none; stroke: #8a5a00; stroke-width: 1; pointer-events: none; }
.reference { fill: none; stroke: var(--soft-ink); stroke-width: 0.9; stroke-dasharray: 1 3; pointer-events: none; }
.intent { fill: none; stroke: var(--soft-ink); stroke-width: 0.7; stroke-dasharray: 7 4; pointer-events: none; }
.pocket { fill: rgb(28 36 51 / 16%); stroke: var(--ink); stroke-width: 0.9; stroke-dasharray: 3 2; pointer-events: none; }
.picture { opacity: 0.55; pointer-events: none; }
.border { fill: none; stroke: var(--accent); stroke-width: 0.8; stroke-dasharray: 10 4 2 4; pointer-events: none; }
.narrow { pointer-events: none; }
.narrow circle { fill: none; stroke: var(--wrong); stroke-width: 1.2; }
.narrow text { fill: var(--wrong); font-size: 11px; }
.on-drawing { position: absolute; width: max-content; transform: translate(-50%, -50%); background: var(--ground); padding: 0 2px; z-index: 2; }
.on-drawing.beside { transform: translate(-100%, -50%); }
.asks { position: absolute; left: 28px; bottom: 6px; margin: 0; color: var(--accent); }
.cannot { position: absolute; left: 30%; top: 45%; color: var(--wrong); }
</style>

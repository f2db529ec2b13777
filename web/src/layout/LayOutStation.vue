<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'

import type { Placement, Size } from '../api/client'
import { leadersToSheet } from '../drawing/leaders'
import { nudge } from '../drawing/nudge'
import RuledGround from '../drawing/RuledGround.vue'
import SizeField from '../kit/SizeField.vue'
import { bareMillimetres, plain, withUnit } from '../kit/units'
import { tint } from '../look/tint'
import { useRun } from '../state/run'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import EmptyStation from '../frame/EmptyStation.vue'
import { isHeard } from '../frame/keys'
import SheetChoice from '../frame/SheetChoice.vue'
import StationFrame from '../frame/StationFrame.vue'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import ProgressBar from '../kit/ProgressBar.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import { useBeside } from './beside'
import AlreadyCut from './AlreadyCut.vue'
import BedBelow from './BedBelow.vue'
import HowPartsMayLie from './HowPartsMayLie.vue'
import OffcutsToTake from './OffcutsToTake.vue'
import PlacedPart from './PlacedPart.vue'
import { keyOf, round, usePlacing, type Laid } from './placing'
import SheetGround from './SheetGround.vue'
import SheetsAtHand from './SheetsAtHand.vue'
import { told } from './told'

/** Parts on sheets: nested by the server, moved and turned by hand. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)
const nesting = useRun('nest')
const seconds = ref(10)
const moved = ref('')

const drag = useBeside()
const { place, turnBy } = usePlacing()

/** From the part's frame to the sheet's, y down: turned over first, then turned, then moved. */
function lying({ x, y, turn, mirrored }: Placement): string {
  return `translate(${x} ${-y}) rotate(${-turn})${mirrored ? ' scale(1 -1)' : ''}`
}

/** While the nesting runs, its best layout so far is shown; nothing of it is stored until it ends. */
const layout = computed(() => (nesting.going.value && nesting.run.value?.nest?.layout) || workshop.document?.layout)

const sheet = computed(() => layout.value?.sheets[picked.sheet] ?? null)

const laid = computed(() => {
  const found: Laid[] = []
  for (const placement of layout.value?.placements ?? []) {
    const shown = workshop.shown?.parts.find((p) => p.id === placement.part)
    const part = workshop.document?.parts.find((p) => p.id === placement.part)
    if (placement.sheet !== picked.sheet || !shown || !part || placement.copy_number > part.count) continue
    const name = part.count > 1 ? `${part.name} ${placement.copy_number}` : part.name
    found.push({ key: keyOf(placement), placement, shown, name, fill: tint(workshop.document?.stocks.find((s) => s.id === part.stock)) })
  }
  return found
})

const chosen = computed(() => laid.value.find((l) => l.key === picked.placed) ?? null)
const box = computed(() => ({ left: 0, bottom: 0, right: sheet.value?.width ?? 400, top: sheet.value?.height ?? 300 }))

async function nest(): Promise<void> {
  const slug = workshop.shown?.slug
  if (!slug) return
  const before = new Map((workshop.document?.layout.placements ?? []).map((p) => [keyOf(p), p]))
  moved.value = ''
  const run = await nesting.start(slug, seconds.value)
  await workshop.open(slug)
  if (!run || run.state === 'failed' || run.offered) return
  if (!run.nest) {
    moved.value = run.message
    return
  }
  const after = workshop.document?.layout.placements ?? []
  const apart = after.filter((p) => {
    const old = before.get(keyOf(p))
    return !old || old.sheet !== p.sheet || Math.hypot(old.x - p.x, old.y - p.y) > 0.01 || old.turn !== p.turn
  })
  const held = after.filter((p) => p.by_hand || p.cut).length
  const words = apart.length ? `${apart.length} of ${after.length} parts moved` : 'Nothing moved: no better layout was found'
  moved.value = held ? `${words}; ${held} placed by hand or cut stayed.` : `${words}.`
}

/** A layout that was found for spacing, sheets or places that have changed meanwhile: the maker decides. */
const offered = computed(() => (nesting.run.value?.offered && !nesting.going.value && nesting.run.value.nest?.layout) || null)

async function takeOffered(): Promise<void> {
  const layout = offered.value
  if (!layout) return
  const stored = await edits.told(edits.edit(({ layout: now }) => ({ do: 'set layout', layout: { ...layout, margin: now.margin, gap: now.gap } })))
  if (stored) nesting.run.value = null
}

/** Only stocks that something is made of. */
const stocks = computed(() => (workshop.document?.stocks ?? []).filter((stock) => workshop.document?.parts.some((part) => part.stock === stock.id)))

const takes = computed(() => {
  const facts = nesting.run.value?.nest?.told
  return facts ? told(facts, workshop.unit) : ''
})

/** What is left whole of the sheet that is shown, while nothing is nested anew. */
const rest = computed(() => (nesting.going.value ? null : (workshop.left[picked.sheet] ?? null)))

const found = computed(() => nesting.run.value?.nest?.findings ?? [])

function saveSpacing(which: 'margin' | 'gap', size: Size): Promise<Refusal | null> {
  return edits.edit(({ layout }) => ({ do: 'set spacing', margin: layout.margin, gap: layout.gap, [which]: size }))
}

// By hand: the drawing follows the pointer, and the server hears of it when the part is let go.

const dragged = ref({ x: 0, y: 0 })

function press(event: PointerEvent, item: Laid): void {
  if (nesting.going.value) return
  event.stopPropagation()
  picked.pick({ placed: item.key })
  picked.pick({ partId: item.shown.id })
  ground.value?.view.drag(
    event,
    (x, y) => {
      const { placement } = item
      const at = { x: placement.x + x, y: placement.y + y }
      if (Math.hypot(x, y) * scale() > 3) drag.ask(workshop.shown?.slug ?? '', { ...placement, ...at }, scale())
      const shown = drag.held(at.x, at.y, scale())
      dragged.value = { x: shown.x - placement.x, y: shown.y - placement.y }
    },
    async (x, y) => {
      if (Math.hypot(x, y) * scale() > 3) await drop(item, item.placement.x + x, item.placement.y + y)
      drag.forget()
      dragged.value = { x: 0, y: 0 }
    },
  )
}

/** Let go, a part goes to the gap or margin that it is near, as the server works it out for this very place. */
async function drop(item: Laid, x: number, y: number): Promise<void> {
  const at = { x: round(x), y: round(y) }
  const found = await drag.asked(workshop.shown?.slug ?? '', { ...item.placement, ...at }, scale()).catch(() => null)
  const to = found ? { x: found.x, y: found.y } : at
  dragged.value = { x: to.x - item.placement.x, y: to.y - item.placement.y }
  await place(item, to)
}

function scale(): number {
  return ground.value?.view.scale.value ?? 1
}

async function moveSheet(to: number): Promise<void> {
  if (!(await edits.told(edits.edit({ do: 'move sheet', sheet: picked.sheet, to })))) return
  picked.pick({ sheet: to })
}

useEventListener(window, 'keydown', (event) => {
  if (!isHeard(event) || !chosen.value || nesting.going.value) return
  const by = nudge(event, workshop.unit)
  if (by) {
    const { x, y } = chosen.value.placement
    void place(chosen.value, { x: round(x + by.x), y: round(y + by.y) })
  } else if (event.key === 'r') turnBy(chosen.value, 90)
  else if (event.key === 'Escape') picked.pick({ placed: null })
})

/** Where the corner of a part is shown: with the pointer, while it is dragged. */
function shownAt({ key, placement }: Laid): [number, number] {
  const { x, y } = key === picked.placed ? dragged.value : { x: 0, y: 0 }
  return [placement.x + x, placement.y + y]
}

/** How far it is to the neighbours of a dragged part; to what it lies on it is no way. */
const ways = computed(() => drag.beside.value?.neighbours.filter((way) => way.distance > 0) ?? [])

/** Parts that a finding of this sheet points at are drawn as faulty. */
const faulty = computed(() => {
  // While a part is dragged, what it would lie on is.
  if (drag.beside.value) return new Set([...drag.beside.value.in_the_way.map(keyOf), ...(drag.beside.value.free ? [] : [picked.placed ?? ''])])
  const here = (workshop.shown?.findings ?? []).filter(({ place }) => place.kind === 'sheet' && place.id === String(picked.sheet))
  return new Set(here.flatMap(({ place }) => place.copies.map((copy) => keyOf(copy))))
})

const margin = computed(() => (workshop.document ? bareMillimetres(workshop.document.layout.margin) : 0) || 0)

watchEffect(() => {
  if (ground.value) leadersToSheet(ground.value.frame, ground.value.view, picked.sheet)
})
</script>

<template>
  <StationFrame title="Layout">
    <template #drawing>
      <div class="split">
        <SheetChoice />
        <EmptyStation v-if="!sheet && !workshop.shown?.parts.length" title="Nothing to lay out yet" says="Add a part first: all that are counted are then put on as many sheets as they need." first="shape" />
        <EmptyStation v-else-if="!sheet" title="Not laid out yet" says="All counted parts are put on as many sheets as they need, by stock, with the gap and margin you set.">
          <ActButton look="main" :disabled="nesting.going.value" @click="nest">Lay out</ActButton>
        </EmptyStation>
        <RuledGround v-else ref="ground" :box="box" :label="`Sheet ${picked.sheet + 1}`" @ground="picked.pick({ placed: null })">
          <template #default="{ view }">
            <g :transform="view.place.value">
              <BedBelow :sheet="sheet" />
              <SheetGround :sheet="sheet" :margin="margin" :rest="rest" />
              <g v-for="item in laid" :key="item.key" :transform="item.key === picked.placed ? `translate(${dragged.x} ${-dragged.y})` : undefined">
                <path
                  :transform="lying(item.placement)"
                  :d="item.shown.path"
                  :fill="item.fill"
                  fill-rule="evenodd"
                  class="laid"
                  :class="{ chosen: item.key === picked.placed, faulty: faulty.has(item.key), cut: item.placement.cut }"
                  vector-effect="non-scaling-stroke"
                  tabindex="0"
                  role="button"
                  :aria-label="`${item.name} on sheet ${picked.sheet + 1}`"
                  @focus="picked.pick({ placed: item.key })"
                  @keydown.space.prevent="picked.pick({ placed: item.key })"
                  @pointerdown="press($event, item)"
                />
                <path v-if="item.shown.pockets" class="pocket" :transform="lying(item.placement)" :d="item.shown.pockets" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
              </g>
            </g>
            <text v-for="item in laid" :key="`n${item.key}`" class="name" :transform="`translate(${view.toScreen(...shownAt(item)).x} ${view.toScreen(...shownAt(item)).y}) rotate(${-item.placement.turn}) translate(6 ${item.placement.mirrored ? 15 : -6})`">{{ item.name }}{{ item.placement.cut ? ' · cut' : item.placement.by_hand ? ' · by hand' : '' }}{{ item.placement.mirrored ? ' · on its face' : '' }}</text>
            <g v-for="(way, index) in ways" :key="`w${index}`" class="way">
              <line :x1="view.toScreen(way.x1, 0).x" :y1="view.toScreen(0, way.y1).y" :x2="view.toScreen(way.x2, 0).x" :y2="view.toScreen(0, way.y2).y" />
              <text :x="view.toScreen((way.x1 + way.x2) / 2, 0).x + 6" :y="view.toScreen(0, (way.y1 + way.y2) / 2).y - 4">{{ plain(way.distance, workshop.unit) }}</text>
            </g>
            <text v-if="rest && !drag.beside.value" class="rest-name" :transform="`translate(${view.toScreen(rest.left + rest.width / 2, 0).x} ${view.toScreen(0, rest.bottom + rest.height / 2).y})${rest.height > rest.width ? ' rotate(-90)' : ''}`">{{ plain(rest.width, workshop.unit) }} × {{ withUnit(rest.height, workshop.unit) }} left whole</text>
          </template>
        </RuledGround>
      </div>
    </template>
    <template v-if="chosen">
      <PlacedPart :laid="chosen" />
    </template>
    <h2>Layout</h2>
    <div class="stack">
      <SizeField v-if="workshop.document" label="Margin to the edge" :size="workshop.document.layout.margin" :save="(size) => saveSpacing('margin', size)" />
      <SizeField v-if="workshop.document" label="Gap between parts" :size="workshop.document.layout.gap" :save="(size) => saveSpacing('gap', size)" />
      <ChoiceField label="Look for" :value="seconds" :options="[2, 10, 30, 120]" :names="{ 2: '2 seconds', 10: '10 seconds', 30: '30 seconds', 120: '2 minutes' }" :save="(chosen) => { seconds = chosen }" />
    </div>
    <p class="in-line go">
      <ActButton look="main" :disabled="nesting.going.value || !workshop.shown?.parts.length" @click="nest">{{ workshop.shown?.sheets.length ? 'Lay out again' : 'Lay out' }}</ActButton>
      <ActButton v-if="nesting.going.value" look="ink" :disabled="nesting.stopping.value" @click="nesting.stop">{{ nesting.stopping.value ? 'Stopping …' : 'Stop and keep the best' }}</ActButton>
    </p>
    <div v-if="nesting.going.value" role="status" class="going">
      <ProgressBar label="Nesting" :done="nesting.run.value?.progress ?? 0" :ahead="nesting.run.value?.ahead" />
      <p>Nesting, {{ ((nesting.run.value?.progress ?? 0) * 100).toFixed(0) }} % of the time used.</p>
    </div>
    <p v-if="takes" role="status" class="takes">{{ takes }}</p>
    <p v-if="moved" role="status" class="explain">{{ moved }}</p>
    <div v-if="offered" role="status" class="offered">
      <p>{{ nesting.run.value?.message }} {{ offered.placements.length }} parts on {{ offered.sheets.length }} {{ offered.sheets.length === 1 ? 'sheet' : 'sheets' }}.</p>
      <p class="in-line">
        <ActButton look="ink" @click="takeOffered">Take this layout</ActButton>
        <ActButton @click="nesting.run.value = null">Keep mine</ActButton>
      </p>
    </div>
    <p v-if="nesting.trouble.value" class="why" role="alert">{{ nesting.trouble.value }}</p>
    <p v-for="finding in found" :key="finding.text" class="why">{{ finding.text }}</p>

    <template v-for="stock in stocks" :key="stock.id">
      <h2>Sheets at hand: {{ stock.name }}</h2>
      <OffcutsToTake :stock="stock" />
      <SheetsAtHand :stock="stock" />
    </template>
    <FoldSection v-if="workshop.document?.layout.done.length" :title="`Cut already: ${workshop.document.layout.done.length}`" folded><AlreadyCut /></FoldSection>
    <p class="explain"><GoLink :to="`/projects/${workshop.shown?.slug}/bed`">A picture of the bed or the scrap</GoLink></p>
    <FoldSection title="How parts may lie" name="turns" folded>
      <HowPartsMayLie />
    </FoldSection>
    <p v-if="sheet" class="explain in-line">
      Sheet {{ picked.sheet + 1 }}: {{ plain(sheet.width, workshop.unit) }} × {{ withUnit(sheet.height, workshop.unit) }}
      <ActButton v-if="picked.sheet > 0" @click="moveSheet(picked.sheet - 1)">Cut it earlier</ActButton>
      <ActButton v-if="picked.sheet + 1 < (layout?.sheets.length ?? 0)" @click="moveSheet(picked.sheet + 1)">Cut it later</ActButton>
    </p>
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr); }
.laid { stroke: var(--ink); stroke-width: 1; cursor: move; outline: none; }
.pocket { fill: rgb(28 36 51 / 16%); stroke: var(--ink); stroke-width: 0.8; stroke-dasharray: 3 2; pointer-events: none; }
.laid.cut { fill-opacity: 0.25; stroke-dasharray: 6 3; }
.way line { stroke: var(--accent); stroke-width: 1; pointer-events: none; }
.way text { fill: var(--accent); font-size: 12px; font-weight: 600; paint-order: stroke; stroke: var(--paper); stroke-width: 3; pointer-events: none; }
.rest-name { font-size: 11px; fill: var(--soft-ink); text-anchor: middle; pointer-events: none; }
.takes { margin-top: 6px; }
.explain + h2, .takes + h2 { margin-top: 12px; }
.laid.faulty { stroke: var(--wrong); stroke-width: 2.6; }
.laid.chosen { stroke: var(--accent); stroke-width: 2.2; }
.laid.chosen.faulty { stroke: var(--wrong); stroke-width: 2.6; stroke-dasharray: 9 3; }
.name { font-size: 11px; pointer-events: none; }
.go { margin: 10px 0; }
.offered { border-left: 2px solid var(--accent); padding-left: 8px; margin: 8px 0; display: grid; gap: 6px; }
.stack + h2 { margin-top: 12px; }
.explain { color: var(--soft-ink); font-size: 12px; margin-top: 6px; }
</style>

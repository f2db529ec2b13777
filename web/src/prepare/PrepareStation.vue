<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch, watchEffect } from 'vue'

import { leadersTo } from '../drawing/leaders'
import RuledGround from '../drawing/RuledGround.vue'
import EmptyStation from '../frame/EmptyStation.vue'
import SheetChoice from '../frame/SheetChoice.vue'
import StationFrame from '../frame/StationFrame.vue'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import WayField from '../kit/WayField.vue'
import { longWay } from '../kit/units'
import { tint } from '../look/tint'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import BedGround from './BedGround.vue'
import { usePlayer, workedOf } from './player'
import { liesAt, onBed, onSheet, rowKey, spoken, usePrepared, type Task } from './prepared'
import EdgesThatShow from './EdgesThatShow.vue'
import HowHeld from './HowHeld.vue'
import CutterRack from './routed/CutterRack.vue'
import FacingJob from './routed/FacingJob.vue'
import HowItCuts from './routed/HowItCuts.vue'
import MachineSheet from './MachineSheet.vue'
import OnEdges, { type Sees } from './OnEdges.vue'
import RowSettings from './RowSettings.vue'
import RunningOrder from './RunningOrder.vue'
import SendIt from './SendIt.vue'
import TimeBar from './TimeBar.vue'
import WasCut from './WasCut.vue'
import WhereItLies from './WhereItLies.vue'

/** The sheet on the bed of its machine: what is done in which order, for how long, and how that will go. */
// What draws in space comes when a sheet is seen there.
const InDepth = defineAsyncComponent(() => import('./routed/InDepth.vue'))

const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)
const chosen = ref<string | null>(null)

/** What a click on a line of the drawing does. */
const sees = ref<Sees>('rows')
const SEES: Record<Sees, string> = { rows: 'Rows', tabs: 'Holding tabs', starts: 'Start points' }
const HINTS: Record<Sees, string> = {
  rows: 'A click on a line chooses its row.',
  tabs: 'A click on a cut adds a holding tab, one on a tab takes it away; tabs are dragged.',
  starts: 'A click on a cut begins it there, in all copies of the part.',
}

/** Whether the sheet is seen as a drawing or in space. */
const seen = ref<'drawing' | 'in depth'>('drawing')

const { prepared, trouble, sheet } = usePrepared()
const sheetTint = computed(() => tint(workshop.document?.stocks.find(({ id }) => id === sheet.value?.stock)))
const isRouter = computed(() => picked.machine?.kind === 'router')
/** What the head goes round before it cuts, drawn on the bed. */
const rounds = ref<'none' | 'box' | 'hull'>('none')
const round = computed(() => (rounds.value === 'none' ? '' : (prepared.value?.[rounds.value] ?? []).map(({ x, y }) => `${x},${-y}`).join(' ')))
const player = usePlayer(() => {
  const slug = workshop.shown?.slug
  return slug && sheet.value ? { slug, number: picked.sheet + 1, version: workshop.shown?.version ?? 0 } : null
})

/** How many of the parts here show their edges. */
const showing = computed(() => {
  const here = new Set(workshop.document?.layout.placements.filter((one) => one.sheet === picked.sheet).map(({ part }) => part))
  const count = workshop.document?.parts.filter(({ id, shows }) => shows && here.has(id)).length ?? 0
  return count ? `of ${count} ${count === 1 ? 'part' : 'parts'}` : 'none'
})
const row = computed(() => prepared.value?.rows.find((one) => prepared.value && rowKey(prepared.value, one) === chosen.value) ?? null)
const lit = computed(() => new Set(row.value?.jobs ?? []))
const started = computed(() => player.moves.value !== null && player.now.value > 0)
const job = computed(() => (started.value ? (player.at.value?.job ?? 0) : -1))
const finished = computed(() => started.value && player.now.value >= player.total.value)
const rowsDone = computed(() => prepared.value?.rows.findIndex(({ jobs }) => jobs.includes(job.value)) ?? -1)
const worked = computed(() => (started.value ? workedOf(player.moves.value, player.at.value) : ''))
const pierces = computed(() => prepared.value?.rows.reduce((sum, { pierces: some }) => sum + some, 0) ?? 0)
const length = computed(() => prepared.value?.rows.reduce((sum, { length: some }) => sum + some, 0) ?? 0)
const moved = computed(() => prepared.value?.rows.reduce((sum, { moved: some }) => sum + some, 0) ?? 0)

watch([() => picked.sheet, () => workshop.shown?.slug], () => { chosen.value = null })

/** Parts that have come free by now. */
const free = computed(() => {
  if (!started.value || !prepared.value) return []
  const out = prepared.value.jobs.filter(({ task }, at) => task.stage === 'outer' && (at < job.value || finished.value))
  const keys = new Set(out.map(({ task }) => `${task.part}#${task.copy_number}`))
  // What hangs on holding tabs stays in the sheet.
  for (const { part, copy_number } of prepared.value.tabs) keys.delete(`${part}#${copy_number}`)
  return laid.value.filter(({ key }) => keys.has(key))
})

const laid = computed(() =>
  (workshop.document?.layout.placements ?? []).flatMap((placement) => {
    const shown = workshop.shown?.parts.find((p) => p.id === placement.part)
    if (placement.sheet !== picked.sheet || !shown || placement.cut) return []
    const { x, y, turn, mirrored } = placement
    const fill = tint(workshop.document?.stocks.find((s) => s.id === shown.stock))
    return [{ key: `${placement.part}#${placement.copy_number}`, path: shown.path, fill, place: `translate(${x} ${-y}) rotate(${-turn})${mirrored ? ' scale(1 -1)' : ''}` }]
  }),
)

/** The whole bed, or, where the sheet is small on it, the sheet with the datum. */
const box = computed(() => {
  const now = prepared.value
  if (!now) return { left: 0, bottom: 0, right: 400, top: 300 }
  if (now.bed_width * now.bed_height < 6 * now.width * now.height) return { left: 0, bottom: 0, right: now.bed_width, top: now.bed_height }
  const [x, y] = [now.held_x, now.held_y]
  const reach = Math.hypot(now.width, now.height)
  return { left: Math.max(0, Math.min(now.datum_x, x - reach)), bottom: Math.max(0, Math.min(now.datum_y, y - reach)), right: Math.min(now.bed_width, Math.max(now.datum_x, x + reach)), top: Math.min(now.bed_height, Math.max(now.datum_y, y + reach)) }
})

/** A line of the drawing is pressed: its row is chosen, or a tab or the start of its cut is put there. */
function pressed(event: PointerEvent, at: number, { stage, part, copy_number }: Task): void {
  const now = prepared.value
  const view = ground.value?.view
  const frame = ground.value?.frame?.getBoundingClientRect()
  if (sees.value === 'rows' || !now || !view || !frame) {
    rowOf(at)
    return
  }
  if (stage !== 'inner' && stage !== 'outer') return
  const to = onSheet(now.lies, view.toDrawing({ x: event.clientX - frame.left, y: event.clientY - frame.top }))
  void edits.change(sees.value === 'tabs' ? { do: 'move tab', part, copy_number, to } : { do: 'move start', part, copy_number, to })
}

function rowOf(at: number): void {
  const found = prepared.value?.rows.find(({ jobs }) => jobs.includes(at))
  chosen.value = found && prepared.value ? rowKey(prepared.value, found) : null
}

function arrange(arrange: 'operation' | 'part'): void {
  void edits.told(edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, arrange, order: [] } })))
}

function byRule(): void {
  void edits.told(edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, order: [] } })))
}

/** Where a place of the sheet is on the screen: the sheet may be turned on the bed. */
function onScreen(x: number, y: number): { x: number; y: number } | null {
  const now = prepared.value
  if (!now || !ground.value) return null
  const at = onBed(now.lies, { x, y })
  return ground.value.view.toScreen(at.x, at.y)
}

watchEffect(() => {
  leadersTo(ground.value?.frame ?? null, ({ kind, id, x, y }) =>
    kind === 'preparation' && id === String(picked.sheet) && typeof x === 'number' && typeof y === 'number' ? onScreen(x, y) : null,
  )
})
</script>

<template>
  <StationFrame title="Prepare">
    <template #drawing>
      <div class="split">
        <SheetChoice />
        <EmptyStation v-if="!sheet" title="Nothing to prepare yet" says="Lay the parts out first: here a sheet lies on its machine, row by row with settings and times." first="lay-out" />
        <InDepth v-else-if="seen === 'in depth' && prepared?.routed" :prepared="prepared" :player="player" :tint="sheetTint" />
        <RuledGround v-else ref="ground" :box="box" :label="`Sheet ${picked.sheet + 1} on the bed`" @ground="chosen = null">
          <template #default="{ view }">
            <template v-if="prepared">
              <BedGround :prepared="prepared" :sheet="sheet" :view="view" />
              <g :transform="`${view.place.value} ${liesAt(prepared.lies)}`">
                <path v-for="part in laid" :key="part.key" class="part" :transform="part.place" :d="part.path" :fill="part.fill" fill-rule="evenodd" />
                <path v-for="part in free" :key="`f${part.key}`" class="free" :transform="part.place" :d="part.path" fill="url(#come-free)" fill-rule="evenodd" />
                <path v-if="prepared.unreached" :d="prepared.unreached" class="unreached" vector-effect="non-scaling-stroke" />
                <path :d="prepared.travel" class="travel" vector-effect="non-scaling-stroke" />
                <path
                  v-for="(one, at) in prepared.jobs"
                  :key="at"
                  :d="one.path"
                  class="line"
                  :class="[`op-${one.operation}`, { lit: lit.has(at), planned: started && at >= job && !finished }]"
                  vector-effect="non-scaling-stroke"
                  @pointerdown.stop="pressed($event, at, one.task)"
                />
              </g>
              <OnEdges :prepared="prepared" :view="view" :sees="sees" />
              <g :transform="view.place.value"><polygon v-if="round" class="round" :points="round" vector-effect="non-scaling-stroke" /></g>
              <g :transform="view.place.value"><path v-if="worked" :d="worked" class="worked" vector-effect="non-scaling-stroke" /></g>
              <g v-if="started && player.at.value" class="head" :transform="`translate(${view.toScreen(player.at.value.x, 0).x} ${view.toScreen(0, player.at.value.y).y})`"><circle r="6" /><path d="M-11 0h22M0 -11v22" /></g>
              <defs><pattern id="come-free" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V6" stroke="#1c1914" stroke-width="1" /></pattern></defs>
            </template>
          </template>
        </RuledGround>
        <p v-if="prepared && sheet" class="sees" role="group" aria-label="A click on a line">
          <ActButton v-for="(name, key) in SEES" :key="key" look="bare" :pressed="seen === 'drawing' && sees === key" @click="sees = key; seen = 'drawing'">{{ name }}</ActButton>
          <ActButton v-if="prepared.routed" look="bare" :pressed="seen === 'in depth'" @click="seen = 'in depth'">In depth</ActButton>
          <span>{{ seen === 'in depth' ? 'Played by the time bar below; turned with the mouse.' : HINTS[sees] }}</span>
        </p>
        <TimeBar v-if="prepared" :player="player" :whole="prepared.seconds - prepared.own_seconds" />
      </div>
    </template>
    <h2>{{ prepared?.machine ?? 'Prepare' }}</h2>
    <p v-if="prepared && !prepared.chosen" class="explain">No machine is chosen yet: what is told here holds for one like this.</p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <template v-if="isRouter && !prepared?.routed">
      <p v-if="sheet && !trouble" class="explain">No cutter is chosen: what is told here is as for a beam along the lines.</p>
      <h3>The rack</h3>
      <CutterRack />
    </template>
    <template v-if="prepared && sheet">
      <p class="whole"><strong>{{ spoken(prepared.seconds) }}</strong> for {{ longWay(length, workshop.unit) }} of lines, {{ longWay(moved, workshop.unit) }} between them, {{ pierces }} {{ prepared.routed ? (pierces === 1 ? 'time down' : 'times down') : pierces === 1 ? 'pierce' : 'pierces' }}<template v-if="prepared.own_seconds >= 0.5">; {{ spoken(prepared.own_seconds) }} of it by the machine's own lines</template></p>
      <RowSettings v-if="row" :row="row" :stock="sheet.stock" :kind="prepared.kind" :chosen="prepared.chosen" />
      <h3>Running order</h3>
      <ChoiceField v-if="workshop.document" label="Arranged" :value="workshop.document.preparation.arrange" :options="['operation', 'part'] as const" :names="{ operation: 'by operation', part: 'part after part' }" :save="arrange" />
      <RunningOrder :prepared="prepared" :chosen="chosen" :done="finished ? prepared.rows.length : started ? rowsDone : 0" @choose="(key) => { chosen = key }" />
      <p v-if="workshop.document?.preparation.order.length" class="explain">Put in order by hand. <ActButton @click="byRule">Back to the rule</ActButton></p>
      <SendIt :prepared="prepared" />
      <WayField label="Walk-round on the drawing" :value="rounds" :options="['none', 'box', 'hull'] as const" :names="{ none: 'no walk-round drawn', box: 'its box', hull: 'its hull' }" :save="(how) => { rounds = how }" />
      <FoldSection v-if="prepared.routed" title="The rack" name="rack" folded><CutterRack /></FoldSection>
      <FoldSection v-if="prepared.routed" title="How it goes through" name="routing" folded><HowItCuts /></FoldSection>
      <FoldSection :title="prepared.routed ? 'Holding tabs' : 'Holding tabs and starts'" name="holding"><HowHeld :prepared="prepared" /></FoldSection>
      <FoldSection v-if="!prepared.routed" title="Edges that show" :says="showing" name="edges-that-show" folded><EdgesThatShow /></FoldSection>
      <FoldSection title="Where the sheet lies" name="on-bed"><WhereItLies /></FoldSection>
      <FoldSection v-if="prepared.routed" title="Facing of the spoilboard" name="facing" folded><FacingJob :prepared="prepared" /></FoldSection>
      <FoldSection title="The machine" name="machine" folded><MachineSheet /></FoldSection>
    </template>
    <WasCut :ready="Boolean(prepared && sheet && !workshop.shown?.layout_out_of_date)" />
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr) auto auto; }
.sees { display: flex; gap: 2px; align-items: baseline; padding: 3px 14px; border-top: 1px solid var(--rule); }
.sees .act.el-button { padding: 1px 8px; border: 1px solid transparent; cursor: pointer; }
.sees .act.el-button.on { border-color: var(--accent); color: var(--accent); background: var(--accent-wash); font-weight: 600; }
.sees span { margin-left: 10px; color: var(--soft-ink); font-size: 12px; }
.part { fill-opacity: 0.55; pointer-events: none; }
.free { pointer-events: none; fill-opacity: 0.4; }
.line { fill: none; cursor: pointer; pointer-events: stroke; }
/* As it is cleared, line by line. */
.line.op-pocket { stroke-width: 0.6; stroke-dasharray: none; }
.unreached { fill: var(--wrong); fill-opacity: 0.6; stroke: none; pointer-events: none; }
.line.planned { stroke-opacity: 0.25; }
.line.lit { stroke: var(--accent); stroke-width: 2.4; }
.travel { fill: none; stroke: var(--accent); stroke-width: 0.6; stroke-dasharray: 1 4; pointer-events: none; }
.round { fill: none; stroke: var(--accent); stroke-width: 1.4; stroke-dasharray: 10 4; pointer-events: none; }
.worked { fill: none; stroke: var(--wrong); stroke-width: 1.8; pointer-events: none; }
.head { pointer-events: none; }
.head circle, .head path { fill: none; stroke: var(--wrong); stroke-width: 1.4; }
.whole { margin: 4px 0 8px; }
.whole strong { font-size: 20px; font-stretch: 84%; display: block; font-weight: 600; }
.explain { color: var(--soft-ink); font-size: 12px; }
h3 { margin-top: 8px; }
</style>

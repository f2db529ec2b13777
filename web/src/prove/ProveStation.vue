<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch, watchEffect } from 'vue'

import { client, sentence, type Schemas, type SheetProved } from '../api/client'
import { reach } from '../api/reach'

import { leadersToSheet } from '../drawing/leaders'
import RuledGround from '../drawing/RuledGround.vue'
import { fine, plain, withUnit } from '../kit/units'
import { tint } from '../look/tint'
import { useRun } from '../state/run'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import FitLedger from '../join/FitLedger.vue'
import EmptyStation from '../frame/EmptyStation.vue'
import SheetChoice from '../frame/SheetChoice.vue'
import StationFrame from '../frame/StationFrame.vue'
import { STATIONS } from '../frame/stations'
import ActButton from '../kit/ActButton.vue'
import FileField from '../kit/FileField.vue'
import FoldSection from '../kit/FoldSection.vue'
import GoLink from '../kit/GoLink.vue'
import TabSheets from '../kit/TabSheets.vue'
import RowsTable from '../kit/RowsTable.vue'
import ProgressBar from '../kit/ProgressBar.vue'

/** The proof cut: what falls out when the beam follows the written file, measured against intent. */
const workshop = useWorkshop()
const picked = useChoice()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)
const proving = useRun('prove')
const table = ref<'parts' | 'ledger'>('parts')

const known = shallowRef<Schemas['ProofShown'] | null>(null)
const proof = computed(() => (known.value?.version === workshop.shown?.version ? known.value : null))
/** Another file than ours, proved in place of that of a sheet. */
const given = shallowRef<{ name: string; proved: SheetProved } | null>(null)
const refused = ref('')
const looking = ref('')
const sheet = computed(() => (given.value?.proved.sheet === picked.sheet ? given.value.proved : (proof.value?.sheets[picked.sheet] ?? null)))
const laid = computed(() => workshop.document?.layout.sheets[picked.sheet] ?? null)
const box = computed(() => ({ left: 0, bottom: 0, right: laid.value?.width ?? 400, top: laid.value?.height ?? 300 }))
const fill = computed(() => tint(workshop.document?.stocks.find((s) => s.id === laid.value?.stock)))
const proved = computed(() => (given.value ? [given.value.proved] : (proof.value?.sheets ?? [])))
/** Every fault with its number on the drawing of its sheet; those of our own files stand in the margin. */
const faults = computed(() => proved.value.flatMap((s) => s.faults.map((fault, at) => ({ ...fault, sheet: s.sheet, number: at + 1 }))))
const chosen = ref<(typeof faults.value)[number] | null>(null)
/** Parts on holding tabs: in all, and on this sheet. */
const legs = computed(() => sheet.value?.parts.flatMap((row) => row.legs.map((leg) => ({ ...leg, of: `${row.name} ${row.copy_number}` }))) ?? [])
const held = computed(() => rows.value.filter((row) => row.held > 0).length)
const hanging = computed(() => sheet.value?.parts.filter((row) => row.held > 0).length ?? 0)
const free = computed(() => (sheet.value ? sheet.value.pieces.length - slugs.value - hanging.value : 0))
const slugs = computed(() => sheet.value?.pieces.filter((piece) => piece.kind === 'slug').length ?? 0)

/** Proves what is not proved yet, or all again; what changes meanwhile is proved after it. */
async function prove(again = false): Promise<void> {
  const { shown } = workshop
  if (!shown?.sheets.length || proving.going.value) return
  if (!again && shown.proof?.now && (await isKept(shown.slug))) return
  const run = await proving.start(shown.slug)
  if (!run?.proof) return
  known.value = run.proof
  await workshop.lookAgain()
  if (proof.value) return
  // Changed elsewhere meanwhile, it is asked for as it is now; changed here, it is proved anew.
  if (run.proof.version > (workshop.shown?.version ?? 0)) await workshop.open(shown.slug)
  else await prove()
}

async function isKept(slug: string): Promise<boolean> {
  const { data } = await client.GET('/api/projects/{slug}/proof', { params: { path: { slug } } })
  if (data) known.value = data
  return Boolean(data)
}
onMounted(() => prove())
watch(() => workshop.shown?.version, () => prove())

/** A file that somebody has changed, or made elsewhere, held against the sheet that is seen. */
async function proveGiven(file: File): Promise<void> {
  refused.value = ''
  looking.value = file.name
  try {
    const sheetNumber = picked.sheet + 1
    const answer = await reach(`/api/projects/${workshop.shown?.slug}/sheets/${sheetNumber}/proof/${encodeURIComponent(file.name)}`, { method: 'POST', body: file })
    const found = (await answer.json()) as SheetProved & { message?: string }
    if (!answer.ok) throw found
    given.value = { name: file.name, proved: found }
    chosen.value = null
  } catch (error) {
    refused.value = sentence(error)
  } finally {
    looking.value = ''
  }
}

/** Where a kind of fault is mended, as the address has it. */
function stationOf(name: string): string {
  return STATIONS.find((station) => station.name === name)?.key ?? ''
}

function choose(fault: (typeof faults.value)[number]): void {
  chosen.value = fault
  picked.pick({ sheet: fault.sheet })
}
watch(() => workshop.shown?.version, () => (given.value = null))

const rows = computed(() => proved.value.flatMap((s) => s.parts.map((part) => ({ ...part, sheet: s.sheet }))) ?? [])
type Row = (typeof rows.value)[number]
const TABLES: { name: 'parts' | 'ledger'; title: string }[] = [
  { name: 'parts', title: 'Pieces against intent' },
  { name: 'ledger', title: 'Fit ledger with proved gaps' },
]
const columns = computed(() => [
  { key: 'part', title: 'Part', least: 150, sorts: (row: Row) => row.name, text: (row: Row) => `${row.name} ${row.copy_number}` },
  { key: 'sheet', title: 'sheet', number: true, width: 70, text: (row: Row) => String(row.sheet + 1) },
  { key: 'intent', title: `intent, ${workshop.unit}`, number: true, least: 150, text: (row: Row) => `${fine(row.width, workshop.unit)} × ${fine(row.height, workshop.unit)}` },
  { key: 'proved', title: `proved, ${workshop.unit}`, number: true, least: 150, text: provedSize },
  { key: 'off', title: 'largest deviation', number: true, least: 130, sorts: (row: Row) => row.deviation ?? Infinity, text: (row: Row) => (row.deviation === null ? '' : fine(row.deviation, workshop.unit)) },
  { key: 'good', title: 'verdict', width: 90, text: (row: Row) => (row.good ? 'as meant' : 'differs') },
])

function provedSize(row: Row): string {
  if (row.proved_width === null || row.proved_height === null) return 'does not come free'
  return `${fine(row.proved_width, workshop.unit)} × ${fine(row.proved_height, workshop.unit)}`
}

const worst = computed(() => Math.max(0, ...rows.value.map((row) => row.deviation ?? 0)))

watchEffect(() => {
  if (ground.value) leadersToSheet(ground.value.frame, ground.value.view, picked.sheet)
})
</script>

<template>
  <StationFrame title="Proof">
    <template #drawing>
      <EmptyStation v-if="!workshop.shown?.sheets.length" title="Nothing to prove yet" says="Lay the parts out first: the proof reads the written file of each sheet back and sweeps the beam along its lines." first="lay-out" />
      <div v-else class="split">
        <SheetChoice />
        <RuledGround ref="ground" :box="box" :label="`Proof cut of sheet ${picked.sheet + 1}`">
          <template #default="{ view }">
            <defs>
              <pattern id="waste" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="7" stroke="#8d8473" stroke-width="1" /></pattern>
            </defs>
            <g :transform="view.place.value">
              <rect class="rest" x="0" :y="-box.top" :width="box.right" :height="box.top" vector-effect="non-scaling-stroke" />
              <template v-if="sheet">
                <path v-for="(piece, index) in sheet.pieces" :key="index" :d="piece.path" :fill="piece.kind === 'part' ? fill : '#efe9db'" fill-rule="evenodd" class="piece" vector-effect="non-scaling-stroke" />
                <path :d="sheet.sunk" class="sunk" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
                <path :d="sheet.lines" class="beam" vector-effect="non-scaling-stroke" />
              </template>
            </g>
            <template v-for="(fault, index) in sheet?.faults ?? []" :key="`f${index}`">
              <g v-if="typeof fault.x === 'number' && typeof fault.y === 'number'" class="fault" :class="{ chosen: chosen?.sheet === sheet?.sheet && chosen?.number === index + 1 }" :transform="`translate(${view.toScreen(fault.x, 0).x} ${view.toScreen(0, fault.y).y})`">
                <circle r="9" />
                <text v-if="given" x="12" y="-8">{{ index + 1 }}</text>
              </g>
            </template>
          </template>
        </RuledGround>
        <TabSheets v-model="table" class="tables" :tabs="TABLES">
          <template #parts><RowsTable label="Pieces against intent" tall :rows="rows" :columns="columns" :mark="(row) => (row.good ? '' : 'wrong')" /></template>
          <template #ledger><FitLedger :proved="proof?.gaps ?? []" :faces="proof?.faces ?? []" /></template>
        </TabSheets>
      </div>
    </template>
    <h2>Proof</h2>
    <div v-if="proving.going.value" role="status" class="going">
      <ProgressBar label="Proving" :done="proving.run.value?.progress ?? 0" :ahead="proving.run.value?.ahead" />
      <p>Cutting sheet after sheet … <ActButton :disabled="proving.stopping.value" @click="proving.stop">{{ proving.stopping.value ? 'Stopping …' : 'Stop' }}</ActButton></p>
    </div>
    <p v-if="proving.run.value?.state === 'stopped'" role="status">Stopped before all sheets were proved.</p>
    <p v-if="proving.trouble.value" class="why" role="alert">{{ proving.trouble.value }}</p>
    <p v-if="given" class="given" role="status">{{ given.name }}, held against sheet {{ given.proved.sheet + 1 }}. <ActButton @click="given = null">Back to our own file</ActButton></p>
    <template v-if="proof || given">
      <p class="verdict" :class="{ wrong: faults.length }" role="status">
        {{ faults.length ? `${faults.length} ${faults.length === 1 ? 'fault' : 'faults'}: the files would cut wrong.` : held ? `All ${rows.length} parts are as meant; ${held} hang on holding tabs.` : `All ${rows.length} parts come free as meant.` }}
      </p>
      <p v-if="faults.length && !given" class="explain">Each stands in the margin, with its mend and where that is.</p>
      <ol v-if="given && faults.length" class="faults">
        <li v-for="(fault, index) in faults" :key="index" :class="{ chosen: chosen === fault }">
          <ActButton look="bare" class="what" @click="choose(fault)"><b>Sheet {{ fault.sheet + 1 }}, {{ fault.number }}</b> {{ fault.text }}</ActButton>
          <span class="mend">{{ fault.mend }}. <GoLink v-if="stationOf(fault.station)" :to="`/projects/${workshop.shown?.slug}/${stationOf(fault.station)}`">{{ fault.station }}</GoLink></span>
        </li>
      </ol>
      <dl v-if="sheet" class="facts">
        <dt>Parts that come free</dt><dd>{{ free }}</dd>
        <template v-if="hanging"><dt>Parts that hang on holding tabs</dt><dd>{{ hanging }}</dd></template>
        <dt>Slugs</dt><dd>{{ slugs }}</dd>
        <dt>Largest deviation</dt><dd>{{ fine(worst, workshop.unit) }} {{ workshop.unit }}</dd>
        <dt>{{ sheet.routed ? 'Cutter swept' : 'Kerf swept' }}</dt><dd>{{ sheet.compensated ? withUnit(sheet.kerf, workshop.unit) : `left to the machine (${plain(sheet.kerf, workshop.unit)})` }}</dd>
      </dl>
      <template v-if="legs.length">
        <h3>Legs, outside once bent</h3>
        <ul class="checks">
          <li v-for="(leg, index) in legs" :key="index" :class="{ wrong: leg.proved === null || Math.abs(leg.proved - leg.wanted) > 0.01 }">{{ leg.of }}, {{ leg.called }}: {{ leg.proved === null ? 'not measured' : withUnit(leg.proved, workshop.unit) }} of {{ withUnit(leg.wanted, workshop.unit) }}</li>
        </ul>
      </template>
      <h3>The file of sheet {{ picked.sheet + 1 }}</h3>
      <ul v-if="sheet" class="checks">
        <li v-for="check in sheet.checks" :key="check.what" :class="{ wrong: !check.good }">{{ check.good ? 'Yes' : 'No' }}: {{ check.what }}</li>
        <li v-if="!sheet.routed">{{ sheet.open_lines }} open, {{ sheet.doubled }} doubled</li>
        <li v-for="note in sheet.notes" :key="note">{{ note }}</li>
      </ul>
      <p class="explain">
        The file of each sheet was written, read back, and the {{ sheet?.routed ? 'cutter swept level by level' : 'beam swept along its lines' }}. Inside corners keep a radius of
        {{ withUnit((sheet?.kerf ?? 0) / 2, workshop.unit) }}: nothing round can do better. What the proof does not know: whether the sheet is flat{{ sheet?.routed ? ', the cutter true, and the face at z 0' : ' and the beam upright' }}.
      </p>
    </template>
    <p v-if="!proving.going.value && workshop.shown?.sheets.length"><ActButton look="ink" @click="prove(true)">Prove again</ActButton></p>
    <FoldSection v-if="workshop.shown?.sheets.length" title="A file from elsewhere" name="given-file" folded>
      <p class="explain">A file that was changed after it was written, or made elsewhere for sheet {{ picked.sheet + 1 }}: it is held against what is meant. Nothing of it is kept.</p>
      <FileField :label="`Prove it as sheet ${picked.sheet + 1}'s`" accept=".svg,.dxf,.pdf,.nc" :take="proveGiven" />
      <p v-if="looking" role="status" class="explain">Reading and sweeping {{ looking }} …</p>
      <p v-if="refused" class="why" role="alert">{{ refused }}</p>
    </FoldSection>
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr) minmax(150px, 34%); }
.tables { border-top: 1px solid var(--ink); min-height: 0; }
.rest { fill: url(#waste); stroke: var(--ink); stroke-width: 1; pointer-events: none; }
.piece { stroke: none; pointer-events: none; }
.sunk { fill: rgb(28 36 51 / 16%); stroke: var(--ink); stroke-width: 0.8; stroke-dasharray: 3 2; pointer-events: none; }
.beam { fill: none; stroke: var(--ink); stroke-width: 1; pointer-events: none; }
.fault circle { fill: none; stroke: var(--wrong); stroke-width: 2; }
.fault text { fill: var(--wrong); font-size: 12px; font-weight: 700; paint-order: stroke; stroke: var(--paper); stroke-width: 3; }
.fault.chosen circle { stroke-width: 4; fill: var(--wrong-wash); fill-opacity: 0.6; }
.verdict { font-size: 15px; font-weight: 600; color: var(--right); margin: 6px 0; }
.verdict.wrong { color: var(--wrong); }
.faults { list-style: none; margin: 0 0 8px; padding: 0; }
.faults li { border-top: 1px solid var(--faint-rule); padding: 4px 0; }
.faults li.chosen { background: var(--wrong-wash); }
.faults :deep(.what.act.el-button) { display: block; width: 100%; height: auto; text-align: left; white-space: normal; color: var(--wrong); padding: 0; border: 0; background: none; }
.mend { display: block; color: var(--soft-ink); font-size: 12px; }
.given { border: 1px solid var(--ink); padding: 6px 8px; }
.checks { list-style: none; margin: 0; padding: 0; }
.checks .wrong { color: var(--wrong); font-weight: 600; }
.facts { display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; margin: 6px 0; }
.facts dt { color: var(--soft-ink); }
.facts dd { margin: 0; text-align: right; }
.explain { color: var(--soft-ink); font-size: 12px; margin: 8px 0; }
</style>

<script setup lang="ts">
import { computed, onMounted, ref, watch, watchEffect } from 'vue'

import { leadersToSheet } from '../drawing/leaders'
import RuledGround from '../drawing/RuledGround.vue'
import { fine, plain, withUnit } from '../fields/units'
import { tint } from '../parts/tint'
import { useRun } from '../stores/run'
import { useWorkshop } from '../stores/workshop'
import FitLedger from './FitLedger.vue'
import SheetChoice from './SheetChoice.vue'
import StationFrame from './StationFrame.vue'

/** The proof cut: what falls out when the beam follows the written file, measured against intent. */
const workshop = useWorkshop()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)
const proving = useRun('prove')
const table = ref<'parts' | 'ledger'>('parts')

const proof = computed(() => {
  const found = proving.run.value?.proof ?? null
  return found && found.version === workshop.shown?.version ? found : null
})
const sheet = computed(() => proof.value?.sheets[workshop.sheet] ?? null)
const laid = computed(() => workshop.document?.layout.sheets[workshop.sheet] ?? null)
const box = computed(() => ({ left: 0, bottom: 0, right: laid.value?.width ?? 400, top: laid.value?.height ?? 300 }))
const fill = computed(() => tint(workshop.document?.stocks.find((s) => s.id === laid.value?.stock)))
const faults = computed(() => proof.value?.sheets.flatMap((s) => s.faults.map((fault) => ({ ...fault, sheet: s.sheet }))) ?? [])
const slugs = computed(() => sheet.value?.pieces.filter((piece) => piece.kind === 'slug').length ?? 0)

async function prove(): Promise<void> {
  if (workshop.shown?.sheets.length && !proving.going.value) await proving.start(workshop.shown.slug)
}
onMounted(prove)
watch(() => workshop.shown?.version, prove)

const rows = computed(() => proof.value?.sheets.flatMap((s) => s.parts.map((part) => ({ ...part, sheet: s.sheet }))) ?? [])
const worst = computed(() => Math.max(0, ...rows.value.map((row) => row.deviation ?? 0)))

watchEffect(() => {
  if (ground.value) leadersToSheet(ground.value.frame, ground.value.view, workshop.sheet)
})
</script>

<template>
  <StationFrame title="Proof">
    <template #drawing>
      <div v-if="!workshop.shown?.sheets.length" class="empty"><h2>Nothing to prove yet</h2><p>Lay the parts out first: the proof reads the written file of each sheet back and sweeps the beam along its lines.</p></div>
      <div v-else class="split">
        <SheetChoice />
        <RuledGround ref="ground" :box="box" :label="`Proof cut of sheet ${workshop.sheet + 1}`">
          <template #default="{ view }">
            <defs>
              <pattern id="waste" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="7" stroke="#8d8473" stroke-width="1" /></pattern>
            </defs>
            <g :transform="view.place.value">
              <rect class="rest" x="0" :y="-box.top" :width="box.right" :height="box.top" vector-effect="non-scaling-stroke" />
              <template v-if="sheet">
                <path v-for="(piece, index) in sheet.pieces" :key="index" :d="piece.path" :fill="piece.kind === 'part' ? fill : '#efe9db'" fill-rule="evenodd" class="piece" vector-effect="non-scaling-stroke" />
                <path :d="sheet.lines" class="beam" vector-effect="non-scaling-stroke" />
              </template>
            </g>
            <g v-for="(fault, index) in sheet?.faults ?? []" :key="`f${index}`">
              <circle v-if="typeof fault.x === 'number' && typeof fault.y === 'number'" class="fault" :cx="view.toScreen(fault.x, 0).x" :cy="view.toScreen(0, fault.y).y" r="9" />
            </g>
          </template>
        </RuledGround>
        <div class="tables">
          <div class="in-line tabs" role="tablist">
            <button type="button" role="tab" :aria-selected="table === 'parts'" class="plain-button" @click="table = 'parts'">Pieces against intent</button>
            <button type="button" role="tab" :aria-selected="table === 'ledger'" class="plain-button" @click="table = 'ledger'">Fit ledger with proved gaps</button>
          </div>
          <FitLedger v-if="table === 'ledger'" :proved="proof?.gaps ?? []" />
          <div v-else class="scroll">
            <table class="figures">
              <thead>
                <tr><th>Part</th><th class="number">sheet</th><th class="number">intent, {{ workshop.unit }}</th><th class="number">proved, {{ workshop.unit }}</th><th class="number">largest deviation</th><th></th></tr>
              </thead>
              <tbody>
                <tr v-for="row in rows" :key="`${row.part}${row.copy_number}`" :class="{ wrong: !row.good }">
                  <td>{{ row.name }} {{ row.copy_number }}</td>
                  <td class="number">{{ row.sheet + 1 }}</td>
                  <td class="number">{{ fine(row.width, workshop.unit) }} × {{ fine(row.height, workshop.unit) }}</td>
                  <td class="number">
                    <template v-if="row.proved_width !== null && row.proved_height !== null">{{ fine(row.proved_width, workshop.unit) }} × {{ fine(row.proved_height, workshop.unit) }}</template>
                    <template v-else>does not come free</template>
                  </td>
                  <td class="number">{{ row.deviation === null ? '' : fine(row.deviation, workshop.unit) }}</td>
                  <td>{{ row.good ? 'as meant' : 'differs' }}</td>
                </tr>
              </tbody>
            </table>
          </div>
        </div>
      </div>
    </template>
    <h2>Proof</h2>
    <div v-if="proving.going.value" role="status" class="going">
      <progress max="1" :value="proving.run.value?.progress ?? 0"></progress>
      <p>Cutting sheet after sheet … <button type="button" class="plain-button" :disabled="proving.stopping.value" @click="proving.stop">{{ proving.stopping.value ? 'Stopping …' : 'Stop' }}</button></p>
    </div>
    <p v-if="proving.run.value?.state === 'stopped'" role="status">Stopped before all sheets were proved.</p>
    <p v-if="proving.trouble.value" class="why" role="alert">{{ proving.trouble.value }}</p>
    <template v-if="proof">
      <p class="verdict" :class="{ wrong: faults.length }" role="status">
        {{ faults.length ? `${faults.length} ${faults.length === 1 ? 'fault' : 'faults'}: the files would cut wrong.` : `All ${rows.length} parts come free as meant.` }}
      </p>
      <ul v-if="faults.length" class="faults">
        <li v-for="(fault, index) in faults" :key="index"><button type="button" class="plain-button" @click="workshop.sheet = fault.sheet">Sheet {{ fault.sheet + 1 }}</button>: {{ fault.text }}</li>
      </ul>
      <table v-if="sheet" class="figures facts">
        <tbody>
          <tr><td>Pieces that come free</td><td class="number">{{ sheet.pieces.length - slugs }}</td></tr>
          <tr><td>Slugs</td><td class="number">{{ slugs }}</td></tr>
          <tr><td>Largest deviation</td><td class="number">{{ fine(worst, workshop.unit) }} {{ workshop.unit }}</td></tr>
          <tr><td>Kerf swept</td><td class="number">{{ sheet.compensated ? withUnit(sheet.kerf, workshop.unit) : `left to the machine (${plain(sheet.kerf, workshop.unit)})` }}</td></tr>
        </tbody>
      </table>
      <h3>The file of sheet {{ workshop.sheet + 1 }}</h3>
      <ul v-if="sheet" class="checks">
        <li v-for="check in sheet.checks" :key="check.what" :class="{ wrong: !check.good }">{{ check.good ? 'Yes' : 'No' }}: {{ check.what }}</li>
        <li>{{ sheet.open_lines }} open, {{ sheet.doubled }} doubled</li>
      </ul>
      <p class="explain">
        The file of each sheet was written, read back, and the beam swept along its lines. Inside corners keep a radius of half the kerf,
        {{ withUnit((sheet?.kerf ?? 0) / 2, workshop.unit) }}: no round beam can do better. What the proof does not know: whether the sheet is flat and the beam upright.
      </p>
    </template>
    <p v-if="!proving.going.value && workshop.shown?.sheets.length"><button type="button" class="ink-button" @click="prove">Prove again</button></p>
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr) minmax(150px, 34%); }
.tables { border-top: 1px solid var(--ink); display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; }
.tabs { gap: 16px; padding: 4px 8px; }
[aria-selected='true'] { color: var(--ink); text-decoration: none; font-weight: 650; }
.scroll { overflow: auto; padding: 0 8px 8px; }
.rest { fill: url(#waste); stroke: var(--ink); stroke-width: 1; pointer-events: none; }
.piece { stroke: none; pointer-events: none; }
.beam { fill: none; stroke: var(--ink); stroke-width: 1; pointer-events: none; }
.fault { fill: none; stroke: var(--wrong); stroke-width: 2; }
.verdict { font-size: 15px; font-weight: 600; color: var(--right); margin: 6px 0; }
.verdict.wrong { color: var(--wrong); }
.faults { margin: 0 0 8px; padding-left: 16px; color: var(--wrong); }
.checks { list-style: none; margin: 0; padding: 0; }
.checks .wrong { color: var(--wrong); font-weight: 600; }
.facts { margin: 6px 0; }
.going progress { width: 100%; accent-color: var(--accent); }
.explain { color: var(--soft-ink); font-size: 12px; margin: 8px 0; }
</style>

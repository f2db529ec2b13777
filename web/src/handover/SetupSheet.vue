<script setup lang="ts">
import { computed } from 'vue'

import { STAGES } from '../api/tables'
import ActButton from '../kit/ActButton.vue'
import PaperSheet from '../kit/PaperSheet.vue'
import RowsTable from '../kit/RowsTable.vue'
import { longWay, plain, withUnit } from '../kit/units'
import { liesAt, spoken, usePrepared, type Row } from '../prepare/prepared'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'

/** What whoever stands at the machine has to know of a sheet: where it lies, what is done and for how long; to be printed. */
const emit = defineEmits<{ close: [] }>()
const workshop = useWorkshop()
const picked = useChoice()
const { prepared, sheet } = usePrepared()

const stock = computed(() => workshop.document?.stocks.find(({ id }) => id === sheet.value?.stock))
const facts = computed(() => (stock.value ? workshop.shown?.stocks[stock.value.id] : undefined))
const on = computed(() => workshop.document?.preparation.on_bed)
const box = computed(() => `-20 ${-(prepared.value?.bed_height ?? 0) - 20} ${(prepared.value?.bed_width ?? 0) + 40} ${(prepared.value?.bed_height ?? 0) + 40}`)
const clips = computed(() => sheet.value?.barred.filter(({ what }) => what === 'clip').length ?? 0)

type Numbered = Row & { number: number }
const rows = computed<Numbered[]>(() => prepared.value?.rows.map((row, at) => ({ ...row, number: at + 1 })) ?? [])

const COLUMNS = [
  { key: 'number', title: 'no.', width: 40, text: (row: Numbered) => String(row.number) },
  { key: 'what', title: 'What is done', text: (row: Numbered) => `${STAGES[row.stage].asked}: ${row.name}` },
  { key: 'count', title: 'copies', width: 70, number: true, text: (row: Numbered) => String(row.jobs.length) },
  { key: 'length', title: 'length', width: 110, number: true, text: (row: Numbered) => longWay(row.length, workshop.unit) },
  { key: 'cutter', title: 'cutter', width: 120, text: (row: Numbered) => row.worked?.name ?? '' },
  { key: 'speed', title: 'speed', width: 100, number: true, text: (row: Numbered) => (row.worked ? `${Math.round(row.setting.speed * 60)} mm/min` : `${row.setting.speed} mm/s`) },
  { key: 'power', title: 'power', width: 90, number: true, text: (row: Numbered) => `${row.setting.power} ${prepared.value?.kind === 'router' ? 'rpm' : '%'}` },
  { key: 'passes', title: 'passes', width: 70, number: true, text: (row: Numbered) => String(row.worked?.passes ?? row.setting.passes) },
  { key: 'time', title: 'time', width: 110, number: true, text: (row: Numbered) => spoken(row.seconds) },
]

function print(): void {
  window.print()
}
</script>

<template>
  <PaperSheet :model-value="true" title="Setup sheet" whole @update:model-value="emit('close')">
    <section v-if="prepared && sheet" class="setup-sheet printed">
      <p class="bar"><ActButton look="main" @click="print">Print</ActButton></p>
      <h1>{{ workshop.document?.name }}: sheet {{ picked.sheet + 1 }} on {{ prepared.machine }}</h1>
      <div class="two">
        <svg :viewBox="box" role="img" :aria-label="`Sheet ${picked.sheet + 1} on the bed`">
          <rect x="0" :y="-prepared.bed_height" :width="prepared.bed_width" :height="prepared.bed_height" class="bed" vector-effect="non-scaling-stroke" />
          <polygon v-for="(area, index) in prepared.keep_outs" :key="index" :points="area.points" class="out" />
          <g :transform="liesAt(prepared.lies)">
            <rect x="0" :y="-prepared.height" :width="prepared.width" :height="prepared.height" class="edge" vector-effect="non-scaling-stroke" />
            <polygon v-for="(barred, index) in sheet.barred" :key="`b${index}`" :points="barred.corners.map(({ x, y }) => `${x},${-y}`).join(' ')" class="out" />
            <path v-for="(job, index) in prepared.jobs" :key="`j${index}`" :d="job.path" class="work" vector-effect="non-scaling-stroke" />
          </g>
          <circle :cx="prepared.datum_x" :cy="-prepared.datum_y" r="6" class="datum" />
        </svg>
        <dl>
          <dt>Stock</dt><dd>{{ stock?.name }}, {{ withUnit(facts?.thickness ?? 0, workshop.unit) }}</dd>
          <dt>Sheet</dt><dd>{{ plain(sheet.width, workshop.unit) }} × {{ withUnit(sheet.height, workshop.unit) }}</dd>
          <dt>Lies</dt><dd>{{ on?.by === 'mark' ? 'its mark' : on?.by === 'the datum' ? 'its corner at the datum' : `its ${on?.by} corner` }} at x {{ on?.x.text }}, y {{ on?.y.text }}{{ on?.turn ? `, turned by ${on.turn}°` : '' }}</dd>
          <dt>Kerf</dt><dd>{{ withUnit(facts?.kerf ?? 0, workshop.unit) }}, made up for {{ workshop.document?.hand_over.kerf }}</dd>
          <dt>Keep-outs</dt><dd>{{ prepared.keep_outs.length }} of the machine, {{ clips }} {{ clips === 1 ? 'clip' : 'clips' }} on the sheet</dd>
          <dt>Holding tabs</dt><dd>{{ prepared.tabs.length || 'none' }}</dd>
          <dt>Time</dt><dd><strong>{{ spoken(prepared.seconds) }}</strong></dd>
        </dl>
      </div>
      <RowsTable label="What is done" :rows="rows" :columns="COLUMNS" />
    </section>
  </PaperSheet>
</template>

<style>
.setup-sheet .two { display: grid; grid-template-columns: minmax(0, 3fr) minmax(0, 2fr); gap: 20px; margin: 12px 0; align-items: start; }
.setup-sheet svg { width: 100%; max-height: 460px; }
.setup-sheet .bed { fill: none; stroke: #5d564a; stroke-dasharray: 8 3; }
.setup-sheet .edge { fill: #fdfaf3; stroke: #1c1914; }
.setup-sheet .out { fill: #1c1914; fill-opacity: 0.5; }
.setup-sheet .work { fill: none; stroke: #1c1914; stroke-width: 0.8; }
.setup-sheet .datum { fill: #173f8f; }
.setup-sheet dl { display: grid; grid-template-columns: auto 1fr; gap: 3px 14px; margin: 0; }
.setup-sheet dt { color: #5d564a; }
.setup-sheet dd { margin: 0; }
</style>

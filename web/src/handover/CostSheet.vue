<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import FileLink from '../kit/FileLink.vue'
import { amountOf, priced } from '../kit/money'
import PaperSheet from '../kit/PaperSheet.vue'
import PlainField from '../kit/PlainField.vue'
import RowsTable from '../kit/RowsTable.vue'
import { useWorkshop } from '../state/workshop'

/** What the project takes, what that costs at the workshop's rates, and the rates themselves, typed where they count. */
const emit = defineEmits<{ close: [] }>()
const workshop = useWorkshop()
const cost = shallowRef<Schemas['Cost'] | null>(null)
const rates = shallowRef<Schemas['Rates'] | null>(null)
const trouble = ref('')

type Line = Schemas['CostLine']
type Part = Schemas['PartCost']
type Sheet = Schemas['SheetCost']
const CALLED: Record<Line['driver'], string> = { stock: 'stock', machine: 'time on', cutter: 'wear of', bend: 'bends', piece: 'pieces', hand: 'work by hand' }

const slug = computed(() => workshop.shown?.slug ?? '')
const money = computed(() => cost.value?.money ?? '')
const bare = computed(() => Boolean(cost.value && !rates.value?.rates.length))

async function look(): Promise<void> {
  const [costs, kept] = await Promise.all([client.GET('/api/projects/{slug}/costs', { params: { path: { slug: slug.value } } }), client.GET('/api/rates')])
  trouble.value = costs.data ? '' : sentence(costs.error)
  cost.value = costs.data ?? null
  rates.value = kept.data ?? null
}
watch(() => [slug.value, workshop.shown?.version], look, { immediate: true })

/** Takes an answer to a rate that was set, and looks at what it all costs now. */
async function taken({ error }: { data?: unknown; error?: unknown }): Promise<void> {
  if (error) trouble.value = sentence(error)
  else await look()
}

/** What was typed, or nothing where it is no amount, which is said. */
function amount(text: string, what: string): number | null | undefined {
  const worth = amountOf(text)
  if (!Number.isNaN(worth)) return worth
  trouble.value = `${what}: “${text}” is not an amount; type one like 12.50.`
  return undefined
}

async function rate(line: Line, text: string): Promise<void> {
  const worth = amount(text, what(line))
  if (worth !== undefined) await taken(await client.PUT('/api/rates', { body: { driver: line.driver, name: line.name, worth } }))
}

async function byHand(which: keyof Schemas['HandWork'], text: string): Promise<void> {
  const minutes = amount(text, 'Minutes by hand')
  const kept = rates.value?.hand_work
  if (kept && minutes !== undefined) await taken(await client.PUT('/api/rates/hand-work', { body: { ...kept, [which]: minutes ?? 0 } }))
}

async function call(name: string): Promise<void> {
  await taken(await client.PUT('/api/rates/money', { body: { money: name.trim() } }))
}

/** What is taken, as it is called in a list. */
function what(line: Line): string {
  const called = CALLED[line.driver]
  return line.driver === 'stock' ? line.name : `${called} ${line.name}`.trim()
}

function takes(line: Line): string {
  if (line.unit === 'h') return line.amount < 1 / 60 ? `${(line.amount * 3600).toFixed(0)} s` : `${(line.amount * 60).toFixed(1)} min`
  if (line.unit === 'm²' || line.unit === 'm') return `${line.amount.toPrecision(3)} ${line.unit}`
  return String(Math.round(line.amount))
}

function share(line: Line): string {
  return line.total === null || !cost.value?.total ? '' : `${((100 * line.total) / cost.value.total).toFixed(0)} %`
}

const LINES = [
  { key: 'what', title: 'What it takes', least: 200, text: what },
  { key: 'takes', title: 'How much', width: 110, number: true, text: takes },
  { key: 'rate', title: 'Rate', width: 210 },
  { key: 'total', title: 'Cost', width: 120, number: true, text: (line: Line) => (line.total === null ? 'no rate' : priced(line.total, money.value)) },
  { key: 'share', title: 'Share', width: 80, number: true, text: share },
]

const PARTS = [
  { key: 'name', title: 'Part', least: 160, text: (part: Part) => part.name },
  { key: 'copies', title: 'Copies', width: 90, number: true, text: (part: Part) => String(part.copies) },
  { key: 'each', title: 'Each', width: 120, number: true, sorts: (part: Part) => part.each, text: (part: Part) => sum(part.lines, part.each) },
  { key: 'drives', title: 'Most of it', least: 160, text: (part: Part) => most(part.lines) },
]

const SHEETS = [
  { key: 'sheet', title: 'Sheet', least: 160, text: (sheet: Sheet) => `Sheet ${sheet.sheet + 1}` },
  { key: 'total', title: 'Cost', width: 120, number: true, sorts: (sheet: Sheet) => sheet.total, text: (sheet: Sheet) => sum(sheet.lines, sheet.total) },
  { key: 'drives', title: 'Most of it', least: 160, text: (sheet: Sheet) => most(sheet.lines) },
]

/** What lines come to, if any of them has a rate. */
function sum(lines: Line[], total: number): string {
  return lines.some((line) => line.total !== null) ? priced(total, money.value) : 'no rate'
}

/** What the largest share of a cost is. */
function most(lines: Line[]): string {
  const [first] = [...lines].sort((a, b) => (b.total ?? 0) - (a.total ?? 0))
  return first?.total ? what(first) : ''
}

const HAND = [
  ['once', 'Once for a project'],
  ['sheet', 'For each sheet'],
  ['piece', 'For each piece'],
] as const
</script>

<template>
  <PaperSheet :model-value="true" title="What it costs" whole @update:model-value="emit('close')">
    <section class="cost">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <template v-if="cost && rates">
        <h1>{{ workshop.document?.name }}</h1>
        <p role="status">
          <strong v-if="!bare">{{ priced(cost.total, money) }}</strong>
          <span v-if="bare">Nothing has a rate yet: type what things are worth to your workshop. Rates are kept for all projects.</span>
          <span v-else-if="cost.lacking">, without {{ cost.lacking === 1 ? 'one thing that has' : `${cost.lacking} things that have` }} no rate</span>
          <span v-if="!bare">. </span>
          <span v-if="cost.unlaid"> {{ cost.unlaid === 1 ? 'One copy lies' : `${cost.unlaid} copies lie` }} on no sheet and {{ cost.unlaid === 1 ? 'is' : 'are' }} not counted.</span>
        </p>
        <p v-if="!bare" class="sets">A set of all parts: <span v-for="set in cost.sets" :key="set.sets">{{ set.sets === 1 ? 'one' : `${set.sets} sets` }} <strong>{{ priced(set.each, money) }}</strong>{{ set.sets === 1 ? '' : ' each' }}</span></p>
        <RowsTable label="What it takes" :rows="cost.lines" :columns="LINES" empty="Nothing lies on a sheet yet; lay the parts out first.">
          <template #rate="{ row }"><PlainField :label="`per ${row.unit}`" :called="`${what(row)}, per ${row.unit}`" :value="row.each ?? ''" blank="no rate" :save="(text) => void rate(row, text)" /></template>
        </RowsTable>
        <p class="explain">Stock counts by the area that a sheet loses: offcuts that go to the shelf are no waste. Time is the machine’s clock, wear what a cutter goes through the stock. More sets are taken to be cut as this one is.</p>
        <div class="beside">
          <section aria-label="Work by hand"><h2>Work by hand, minutes</h2><PlainField v-for="[key, label] in HAND" :key="key" :label="label" :value="rates.hand_work[key] || ''" blank="none" :save="(text) => void byHand(key, text)" /></section>
          <section aria-label="Money"><h2>Money</h2><PlainField label="It is called" :value="rates.money" blank="no name" :save="(text) => void call(text)" /></section>
        </div>
        <template v-if="cost.sheets.length > 1">
          <h2>By sheet</h2>
          <RowsTable label="Cost by sheet" :rows="cost.sheets" :columns="SHEETS" />
        </template>
        <h2>By part</h2>
        <RowsTable label="Cost by part" :rows="cost.parts" :columns="PARTS" empty="No part lies on a sheet yet." />
        <p class="in-line"><FileLink :href="`/api/projects/${slug}/costs.csv`">All of it by sheet and part as CSV</FileLink></p>
      </template>
    </section>
  </PaperSheet>
</template>

<style scoped>
.cost { max-width: 900px; }
.cost .rows { margin: 10px 0; }
.cost h2 { margin: 16px 0 6px; }
.sets { display: flex; flex-wrap: wrap; gap: 4px 20px; }
.beside { display: grid; grid-template-columns: repeat(auto-fit, minmax(260px, 1fr)); gap: 0 40px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

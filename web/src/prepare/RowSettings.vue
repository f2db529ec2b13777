<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas, Setting } from '../api/client'
import { OPERATIONS, STAGES, WORKS } from '../api/tables'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import TickField from '../kit/TickField.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import type { Row } from './prepared'

/** How the machine does an operation on this stock; a change holds for all of its rows. */
const props = defineProps<{ row: Row; stock: string; kind: string; chosen: boolean }>()
const workshop = useWorkshop()
const edits = useEdits()
const trouble = ref('')

/** What the lines of a row can become instead; letters and cut-outs cannot be left out, an outline has nothing to fill. */
type Becomes = Schemas['SetOperation']['to']
const MARKS: Becomes[] = ['score', 'engrave', 'fill', 'cut', 'pocket']
const OUTLINES: Becomes[] = ['cut', 'score', 'engrave', 'nothing']
const BECOME = { nothing: 'left out', ...Object.fromEntries(WORKS.map((work) => [work, OPERATIONS[work].done])) } as Record<Becomes, string>
/** What the lines of a row are now: a hole that is drilled is a cut-out. */
function is(stage: Row['stage']): Becomes {
  const { work } = STAGES[stage]
  return work === 'drill' ? 'cut' : work
}
const everywhere = ref(false)

function become(to: Becomes): void {
  void edits.change({ do: 'set operation', parts: everywhere.value ? [] : [props.row.part], stage: props.row.stage, to })
}

const setting = computed(() => props.row.setting)
/** Stocks whose settings can be taken over: what goes through is slower by as much as this one is thicker. */
const others = computed(() => workshop.document?.stocks.filter(({ id }) => id !== props.stock) ?? [])
const stockName = computed(() => workshop.document?.stocks.find(({ id }) => id === props.stock)?.name ?? '')

/** Made from the setting as it is when its turn comes, so that two quick changes never undo each other. */
async function put(change: Partial<Setting>): Promise<void> {
  if (Object.values(change).some((value) => typeof value === 'number' && Number.isNaN(value))) {
    trouble.value = 'That is no number; type one such as 16.'
    return
  }
  const { stock, row } = props
  const refused = await edits.edit(() => {
    const now = settingNow(stock, row)
    return now ? { do: 'set setting', stock, setting: { ...now, ...change } } : null
  })
  trouble.value = refused?.message ?? ''
}

/** The setting as it stands; with a router that of the row's cutter, which is its own or one to start with. */
function settingNow(stock: string, row: Row): Setting | undefined {
  const { operation, cutter } = row.setting
  if (!row.worked) return workshop.shown?.stocks[stock]?.settings.find((one) => one.operation === operation)
  const machine = workshop.document?.machine
  const own = workshop.document?.stocks.find(({ id }) => id === stock)?.on.find((known) => known.machine === machine)?.settings
  return own?.find((one) => one.operation === operation && one.cutter === cutter) ?? row.setting
}

/** A feed is typed in mm a minute, as a router's are told. */
function feed(field: 'speed' | 'plunge' | 'ramp', text: string): void {
  void put({ [field]: number(text) / 60, tried: '' })
}

function minutes(speed: number): number {
  return Math.round(speed * 60)
}

function number(text: string): number {
  return text.trim() ? Number(text.replace(',', '.')) : NaN
}

const onLine = computed(() => workshop.document?.preparation.routing.on_line.some(({ part, stage }) => part === props.row.part && stage === props.row.stage) ?? false)

function setOnLine(on: boolean): void {
  const { part, stage } = props.row
  if (stage !== 'inner' && stage !== 'outer') return
  void edits.told(edits.edit(({ preparation }) => {
    const others = preparation.routing.on_line.filter((one) => one.part !== part || one.stage !== stage)
    const on_line = on ? [...others, { part, stage }] : others
    return { do: 'set preparation', preparation: { ...preparation, routing: { ...preparation.routing, on_line } } }
  }))
}

function tried(): void {
  void put({ tried: new Date().toLocaleDateString('sv-SE') })
}
</script>

<template>
  <section aria-label="Settings">
    <h3>{{ OPERATIONS[setting.operation].asked }} in {{ stockName }}</h3>
    <ChoiceField label="These lines are" :value="is(row.stage)" :options="row.stage === 'outer' ? OUTLINES : MARKS" :names="BECOME" :save="become" />
    <TickField :value="everywhere" :save="(on) => { everywhere = on }">in all parts, not in {{ row.name }} alone</TickField>
    <p v-if="!chosen" class="explain">Settings belong to a machine: choose one along the top.</p>
    <div v-else-if="row.worked" class="stack">
      <p class="explain">With {{ row.worked.name }}: <strong>{{ row.worked.chip.toFixed(3) }} mm a tooth</strong>, {{ row.worked.least.toFixed(3) }} to {{ row.worked.most.toFixed(3) }} is good; its edge goes {{ Math.round(row.worked.speed) }} m/min.</p>
      <PlainField label="Spindle, rpm" :value="setting.power" :save="(text) => put({ power: number(text), tried: '' })" />
      <PlainField label="Feed, mm/min" :value="minutes(setting.speed)" :save="(text) => feed('speed', text)" />
      <PlainField label="Down a ramp, mm/min" :value="minutes(row.worked.ramp)" :save="(text) => feed('ramp', text)" />
      <PlainField label="Straight down, mm/min" :value="minutes(row.worked.plunge)" :save="(text) => feed('plunge', text)" />
      <PlainField label="Stepdown, mm" :value="setting.stepdown" :save="(text) => put({ stepdown: number(text), tried: '' })" />
      <PlainField label="Note" :value="setting.note" blank="none" :save="(note) => put({ note })" />
      <p class="explain in-line">
        <template v-if="setting.tried">Tried on {{ setting.tried }}.</template>
        <template v-else>Not tried: common practice to start with. <ActButton @click="tried">It was tried today</ActButton></template>
        <ActButton @click="edits.change({ do: 'let setting go', stock, operation: setting.operation, cutter: setting.cutter })">Starting value</ActButton>
      </p>
      <TickField v-if="row.stage === 'inner' || row.stage === 'outer'" :value="onLine" :save="setOnLine">The cutter runs on the line, not beside it</TickField>
    </div>
    <div v-else class="stack">
      <PlainField label="Speed, mm/s" :value="setting.speed" :save="(text) => put({ speed: number(text), tried: '' })" />
      <PlainField :label="kind === 'beam' ? 'Power, %' : 'Spindle, rpm'" :value="setting.power" :save="(text) => put({ power: number(text), tried: '' })" />
      <PlainField label="Passes" :value="setting.passes" :most="100" :save="(text) => put({ passes: number(text), tried: '' })" />
      <PlainField v-if="OPERATIONS[setting.operation].filled" label="Line gap, mm" :value="setting.gap" :save="(text) => put({ gap: number(text), tried: '' })" />
      <PlainField label="Note" :value="setting.note" blank="none" :save="(note) => put({ note })" />
      <p class="explain in-line">
        <template v-if="setting.tried">Tried on {{ setting.tried }}.</template>
        <template v-else>Not tried: common practice to start with. <ActButton @click="tried">It was tried today</ActButton></template>
        <ActButton @click="edits.change({ do: 'let setting go', stock, operation: setting.operation, cutter: setting.cutter })">Starting value</ActButton>
      </p>
      <ChoiceField v-if="others.length" label="All settings as" :value="null" empty="another stock …" :options="others.map(({ id }) => id)" :names="Object.fromEntries(others.map(({ id, name }) => [id, `${name}, by thickness`]))" :save="(like) => edits.change({ do: 'settings as', stock, like })" />
    </div>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
section { border-left: 2px solid var(--accent); padding-left: 8px; margin-bottom: 8px; }
h3 { margin-top: 4px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

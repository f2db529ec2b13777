<script setup lang="ts">
import { ref } from 'vue'

import { sentence, type Machine, type Schemas, type Size } from '../api/client'
import { reach } from '../api/reach'
import { FORMATS, OPERATIONS, WORKS } from '../api/tables'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FileField from '../kit/FileField.vue'
import FileLink from '../kit/FileLink.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import KeepOutFields from '../layout/KeepOutFields.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { freeId } from '../state/fresh'
import { keepForAll } from '../state/library'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** The machine in use as its profile has it: bed, datum, speeds, what it reads, and how it tells operations apart. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const told = ref('')
type Opened = Schemas['OpenedProfile']
const opened = ref<Opened | null>(null)
const trouble = ref('')

const CORNERS = ['bottom left', 'bottom right', 'top right', 'top left'] as const
const DATUMS = ['the face of the sheet', 'the spoilboard'] as const
const READS = Object.keys(FORMATS) as (keyof typeof FORMATS)[]

function put(change: (machine: Machine) => Partial<Machine>): Promise<Refusal | null> {
  return edits.edit((document) => {
    const machine = document.machines.find(({ id }) => id === document.machine)
    return machine ? { do: 'put machine', machine: { ...machine, ...change(machine) }, use: true } : null
  })
}

async function now(change: (machine: Machine) => Partial<Machine>): Promise<void> {
  trouble.value = (await put(change))?.message ?? ''
}

type Work = (typeof WORKS)[number]
function works(text: string): Work[] {
  return text.split(/[\s,;]+/).filter((one): one is Work => WORKS.some((work) => work === one))
}

function number(text: string): number {
  return Number(text.replace(',', '.'))
}

type Pace = 'moving' | 'working'
function pace(which: Pace, field: 'speed' | 'acceleration'): (text: string) => void {
  return (text) => void now((machine) => ({ [which]: { ...machine[which], [field]: number(text) } }))
}

function bed(field: 'bed_width' | 'bed_height'): (size: Size) => Promise<Refusal | null> {
  return (size) => put(() => ({ [field]: size }))
}

function read(kind: (typeof READS)[number], on: boolean): void {
  void now(({ reads }) => ({ reads: READS.filter((one) => (one === kind ? on : reads.includes(one))) }))
}

function tell(operation: Work, change: Partial<Machine['tells'][number]>): void {
  void now(({ tells }) => {
    const { stroke, aci } = OPERATIONS[operation]
    const before = tells.find((one) => one.operation === operation) ?? { operation, stroke, aci, layer: operation }
    return { tells: [...tells.filter((one) => one.operation !== operation), { ...before, ...change }] }
  })
}

function layerOf(operation: string): string {
  return picked.machine?.tells.find((one) => one.operation === operation)?.layer ?? operation
}

function strokeOf(operation: Work): string {
  return picked.machine?.tells.find((one) => one.operation === operation)?.stroke ?? OPERATIONS[operation].stroke
}

function lines(text: string): string[] {
  return text.split(';').map((line) => line.trim()).filter(Boolean)
}

async function keep(): Promise<void> {
  if (!picked.machine) return
  const { said, trouble: no } = await keepForAll.machine(picked.machine)
  told.value = said
  trouble.value = no
}

async function open(file: File): Promise<void> {
  trouble.value = ''
  try {
    const answer = await reach('/api/machines/open', { method: 'POST', body: file })
    const found = (await answer.json()) as Opened & { message?: string }
    if (!answer.ok) throw found
    // Lines of somebody else's are looked at before they stand in every program.
    if (found.lines.length) opened.value = found
    else await take(found.machine)
  } catch (error) {
    trouble.value = sentence(error)
  }
}

async function take(machine: Machine): Promise<void> {
  opened.value = null
  await edits.change({ do: 'put machine', machine, use: true })
}

function copy(): void {
  const machine = picked.machine
  if (!machine) return
  const id = freeId('machine', workshop.document?.machines ?? [])
  void edits.change({ do: 'put machine', machine: { ...machine, id, name: `${machine.name} copy`.slice(0, 80) }, use: true })
}
</script>

<template>
  <p v-if="!picked.machine" class="explain">Choose a machine along the top, or open its profile.</p>
  <div v-else class="stack">
    <PlainField label="Name" :value="picked.machine.name" :save="(name) => now(() => ({ name }))" />
    <ChoiceField label="Kind" :value="picked.machine.kind" :options="['beam', 'router'] as const" :names="{ beam: 'a beam', router: 'a router' }" :save="(kind) => now(() => ({ kind }))" />
    <SizeField label="Bed, width" :size="picked.machine.bed_width" :save="bed('bed_width')" />
    <SizeField label="Bed, height" :size="picked.machine.bed_height" :save="bed('bed_height')" />
    <ChoiceField label="Datum" :value="picked.machine.datum" :options="CORNERS" :save="(datum) => now(() => ({ datum }))" />
    <ChoiceField label="x runs" :value="picked.machine.x_runs" :options="['right', 'left'] as const" :save="(x_runs) => now(() => ({ x_runs }))" />
    <ChoiceField label="y runs" :value="picked.machine.y_runs" :options="['up', 'down'] as const" :save="(y_runs) => now(() => ({ y_runs }))" />
    <PlainField label="Moves at, mm/s" :value="picked.machine.moving.speed" :save="pace('moving', 'speed')" />
    <PlainField label="with, mm/s²" :value="picked.machine.moving.acceleration" :save="pace('moving', 'acceleration')" />
    <PlainField label="Works up to, mm/s" :value="picked.machine.working.speed" :save="pace('working', 'speed')" />
    <PlainField label="with, mm/s²" :value="picked.machine.working.acceleration" :save="pace('working', 'acceleration')" />
    <PlainField label="S from" :value="picked.machine.least" :save="(text) => now(() => ({ least: number(text) }))" />
    <PlainField label="S to" :value="picked.machine.most" :save="(text) => now(() => ({ most: number(text) }))" />
    <p class="reads">Reads <TickField v-for="kind in READS" :key="kind" :value="picked.machine.reads.includes(kind)" :save="(on) => read(kind, on)">{{ FORMATS[kind].called }}</TickField></p>
    <PlainField label="Switches on with" :value="picked.machine.switches_on" :save="(switches_on) => now(() => ({ switches_on }))" />
    <PlainField label="and off with" :value="picked.machine.switches_off" :save="(switches_off) => now(() => ({ switches_off }))" />
    <ChoiceField label="Programs are in" :value="picked.machine.unit" :options="['mm', 'in'] as const" :save="(unit) => now(() => ({ unit }))" />
    <ChoiceField label="Decimal places" :value="picked.machine.decimals" :options="[2, 3, 4, 5, 6]" :save="(decimals) => now(() => ({ decimals }))" />
    <ChoiceField label="Arcs" :value="picked.machine.arcs" :options="['I and J', 'short chords'] as const" :save="(arcs) => now(() => ({ arcs }))" />
    <PlainField label="Radii of an arc differ by, mm" :value="picked.machine.radii ?? ''" blank="as it is written" :save="(text) => now(() => ({ radii: text.trim() ? number(text) : null }))" />
    <TickField :value="picked.machine.line_numbers" :save="(line_numbers) => void now(() => ({ line_numbers }))">Lines are numbered</TickField>
    <template v-if="picked.machine.kind === 'router'">
      <ChoiceField label="A cutter is changed" :value="picked.machine.changes" :options="['a pause', 'M6'] as const" :names="{ 'a pause': 'by hand', M6: 'with M6' }" :save="(changes) => now(() => ({ changes }))" />
      <ChoiceField label="z 0 is" :value="picked.machine.z_datum" :options="DATUMS" :names="{ 'the face of the sheet': 'sheet face', 'the spoilboard': 'spoilboard' }" :save="(z_datum) => now(() => ({ z_datum }))" />
      <PlainField label="Spins up in, s" :value="picked.machine.spins_up" :save="(text) => now(() => ({ spins_up: number(text) }))" />
      <SizeField label="Into the spoilboard, most" :size="picked.machine.spoilboard" :save="(spoilboard) => put(() => ({ spoilboard }))" />
    </template>
    <template v-else>
      <PlainField label="Focus, for the setup sheet" :value="picked.machine.focus" blank="on the face of the sheet" :save="(focus) => now(() => ({ focus }))" />
      <PlainField label="Air, for the setup sheet" :value="picked.machine.air" blank="as the machine has it" :save="(air) => now(() => ({ air }))" />
    </template>
    <PlainField label="Hold-down, for the setup sheet" :value="picked.machine.hold_down" blank="clips" :save="(hold_down) => now(() => ({ hold_down }))" />
    <PlainField label="Programs begin with" :value="picked.machine.begins.join('; ')" blank="nothing more" :save="(text) => now(() => ({ begins: lines(text) }))" />
    <PlainField label="and end with" :value="picked.machine.ends.join('; ')" blank="nothing more" :save="(text) => now(() => ({ ends: lines(text) }))" />
    <div v-for="work in WORKS" :key="work" class="tell">
      <PlainField :label="`Layer to ${work}`" :value="layerOf(work)" :save="(layer) => tell(work, { layer })" />
      <PlainField :label="`Colour to ${work}`" :value="strokeOf(work)" :save="(stroke) => tell(work, { stroke: stroke.toLowerCase() })" />
    </div>
    <PlainField label="Operations in files" :value="picked.machine.sequence.join(' ')" blank="in our order" :save="(text) => now(() => ({ sequence: works(text) }))" />
    <KeepOutFields :keep-outs="picked.machine.keep_outs" clips-only :save="(to) => put(({ keep_outs }) => ({ keep_outs: to(keep_outs) }))" />
    <p class="in-line">
      <ActButton @click="keep">Keep in the library</ActButton>
      <ActButton @click="copy">Make a copy</ActButton>
      <FileLink :href="`/api/projects/${workshop.shown?.slug}/machines/${picked.machine.id}/file`">Save its profile</FileLink>
      <ActButton @click="edits.change({ do: 'remove machine', id: picked.machine.id })">Remove</ActButton>
    </p>
  </div>
  <FileField label="Open a profile (JSON)" accept=".json,application/json" :take="open" />
  <div v-if="opened" role="group" aria-label="Lines of the profile">
    <p>{{ opened.machine.name }} has lines of its own in every program:</p>
    <ul class="own">
      <li v-for="(line, index) in opened.lines" :key="index" :class="{ wrong: line.works }"><code>{{ line.text }}</code> {{ line.where === 'begins' ? 'at the beginning' : 'at the end' }} {{ line.does }}</li>
    </ul>
    <p class="in-line"><ActButton look="ink" @click="take(opened.machine)">Take the profile</ActButton><ActButton @click="opened = null">Leave it</ActButton></p>
  </div>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <p v-else-if="told" class="explain" role="status">{{ told }}</p>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
.reads { display: flex; flex-wrap: wrap; gap: 2px 12px; align-items: baseline; color: var(--soft-ink); }
.tell { border-top: 1px solid var(--faint-rule); }
.own { margin: 4px 0; padding-left: 16px; font-size: 12.5px; }
.own .wrong { color: var(--wrong); }
</style>

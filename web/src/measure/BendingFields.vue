<script setup lang="ts">
import { computed } from 'vue'

import { client, sentence, type Size, type Stock } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import { withUnit } from '../kit/units'
import type { Refusal } from '../state/refusal'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'

/** How a stock is bent: radius, die, and where the neutral line lies; by a table, typed, or measured on a strip. */
type Bending = Stock['bending']
type Neutral = Bending['neutral']

const props = defineProps<{ stock: Stock; put: (change: Partial<Stock>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()
const picked = useChoice()

const bending = computed(() => props.stock.bending)
const neutral = computed(() => bending.value.neutral)
const facts = computed(() => workshop.shown?.stocks[props.stock.id]?.bending)
const WAYS: Neutral['how'][] = ['table', 'typed', 'strip', 'deduction']
const NAMES = { table: 'from the table', typed: 'typed', strip: 'from a strip that was bent', deduction: 'from a bend deduction' }
const none: Size = { text: '', unit: 'mm' }

function set(change: Partial<Bending>): Promise<Refusal | null> {
  return props.put({ bending: { ...bending.value, ...change } })
}

function now(change: Partial<Bending>): void {
  void set(change).then((why) => { if (why) workshop.say(why.message) })
}

/** Nothing typed is what is assumed. */
function own(field: 'radius' | 'least_radius' | 'die' | 'least_flange', size: Size): Promise<Refusal | null> {
  return set({ [field]: size.text ? size : null })
}

function measure(change: Partial<Neutral>): Promise<Refusal | null> {
  return set({ neutral: { ...neutral.value, ...change } as Neutral })
}

function as(how: Neutral['how']): void {
  const radius = { text: String(Number((facts.value?.radius ?? 2).toFixed(3))), unit: 'mm' as const }
  const angle = { text: '90', unit: 'mm' as const }
  const mm = (text: string): Size => ({ text, unit: 'mm' })
  const k = facts.value?.k ?? 0.4
  const deduction = Number((facts.value?.deduction ?? 0).toFixed(2))
  const begun: Record<Neutral['how'], Neutral | { how: 'table' }> = {
    table: { how: 'table' },
    typed: { how: 'typed', k: Number(k.toFixed(3)) },
    deduction: { how: 'deduction', deduction: mm(String(deduction)), angle, radius },
    strip: { how: 'strip', flat: mm('100'), legs: [mm('50'), mm(String(50 + deduction))], angle, radius },
  }
  now({ neutral: begun[how] as Neutral })
}

function spring(index: number, change: Partial<Bending['springs'][number]>): Promise<Refusal | null> {
  return set({ springs: bending.value.springs.map((old, at) => (at === index ? { ...old, ...change } : old)) })
}

/** A square one to begin with, to be overwritten by what was set and read. */
function addSpring(): void {
  const angle = { text: '90', unit: 'mm' as const }
  now({ springs: [...bending.value.springs, { put: angle, got: angle }] })
}

/** On a machine for practice: a strip is bent to a square, and read. */
async function bendOne(): Promise<void> {
  const slug = workshop.shown?.slug ?? ''
  const time = String(bending.value.springs.length)
  const { data, error } = await client.GET('/api/projects/{slug}/bent-back', { params: { path: { slug }, query: { put: 90, time } } })
  if (!data) return workshop.say(sentence(error))
  now({ springs: [...bending.value.springs, { put: { text: '90', unit: 'mm' }, got: { text: data.got, unit: 'mm' } }] })
}

function forgetSpring(index: number): void {
  now({ springs: bending.value.springs.filter((_, at) => at !== index) })
}

function putRow(index: number, field: 'ratio' | 'k', text: string): void {
  if (neutral.value.how !== 'table') return
  const number = Number(text.replace(',', '.'))
  now({ neutral: { ...neutral.value, rows: neutral.value.rows.map((row, at) => (at === index ? { ...row, [field]: number } : row)) } })
}
</script>

<template>
  <div class="stack">
    <SizeField :label="`Inside radius${bending.radius ? '' : ` (assumed ${withUnit(facts?.radius ?? 0, workshop.unit)}${facts?.by_die ? ', by the die' : ''})`}`" :size="bending.radius ?? none" :save="(size) => own('radius', size)" />
    <SizeField label="Least radius it bears" :size="bending.least_radius ?? none" :save="(size) => own('least_radius', size)" />
    <SizeField :label="`Opening of the die${bending.die ? '' : ` (assumed ${withUnit(facts?.die ?? 0, workshop.unit)})`}`" :size="bending.die ?? none" :save="(size) => own('die', size)" />
    <SizeField :label="`Least flange outside${bending.least_flange ? '' : ` (so ${withUnit(facts?.least_flange ?? 0, workshop.unit)})`}`" :size="bending.least_flange ?? none" :save="(size) => own('least_flange', size)" />
    <ChoiceField label="K factor" :value="neutral.how" :options="WAYS" :names="NAMES" :save="as" />
    <template v-if="neutral.how === 'typed'">
      <PlainField label="K" :value="String(neutral.k)" :save="(k) => void measure({ k: Number(k.replace(',', '.')) })" />
    </template>
    <template v-else-if="neutral.how === 'strip'">
      <SizeField label="The strip was, flat" :size="neutral.flat" :save="(flat) => measure({ flat })" />
      <SizeField v-for="(leg, index) in neutral.legs" :key="index" :label="`Leg ${index + 1}, outside`" :size="leg" :save="(size) => measure({ legs: neutral.how === 'strip' ? neutral.legs.map((old, at) => (at === index ? size : old)) : [] })" />
      <SizeField label="Inside radius of it" :size="neutral.radius" :save="(radius) => measure({ radius })" />
      <SizeField label="Turned by, degrees" :size="neutral.angle" bare :save="(angle) => measure({ angle })" />
    </template>
    <template v-else-if="neutral.how === 'deduction'">
      <SizeField label="Bend deduction" :size="neutral.deduction" :save="(deduction) => measure({ deduction })" />
      <SizeField label="at an inside radius of" :size="neutral.radius" :save="(radius) => measure({ radius })" />
      <SizeField label="and an angle of, degrees" :size="neutral.angle" bare :save="(angle) => measure({ angle })" />
    </template>
    <template v-else>
      <p class="explain">K by radius over thickness (DIN 6935), in proportion between.</p>
      <div v-for="(row, index) in neutral.rows" :key="index" class="row">
        <PlainField :label="`Radius / thickness ${index + 1}`" :value="String(row.ratio)" :save="(text) => putRow(index, 'ratio', text)" />
        <PlainField :label="`K ${index + 1}`" :value="String(row.k)" :save="(text) => putRow(index, 'k', text)" />
      </div>
    </template>
    <h3>Springback</h3>
    <div v-for="(one, at) in bending.springs" :key="at" class="in-line">
      <SizeField :label="`Set to, degrees ${at + 1}`" :size="one.put" bare small :save="(put_) => spring(at, { put: put_ })" />
      <SizeField :label="`Came out, degrees ${at + 1}`" :size="one.got" bare small :save="(got) => spring(at, { got })" />
      <ActButton :aria-label="`Forget angle ${at + 1}`" @click="forgetSpring(at)">forget</ActButton>
    </div>
    <p class="in-line">
      <ActButton @click="addSpring">Add an angle that was measured</ActButton>
      <ActButton v-if="picked.machine?.lies" @click="bendOne">Bend a strip to 90° and read it</ActButton>
    </p>
    <p v-if="facts && facts.square !== null" class="follows">For 90° set {{ facts.square.toFixed(1) }}°: the setup sheet has the angle to set for every bend.</p>
    <p v-if="facts" class="follows">A bend of {{ withUnit(facts.radius, workshop.unit) }} has K {{ facts.k.toFixed(3) }}.</p>
    <p v-if="bending.radius || bending.die || bending.least_flange"><ActButton @click="now({ radius: null, least_radius: null, die: null, least_flange: null })">Assume them all again</ActButton></p>
  </div>
</template>

<style scoped>
.follows { color: var(--soft-ink); font-size: 12px; }
</style>

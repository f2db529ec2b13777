<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { client, sentence, type Schemas, type Size } from '../api/client'
import RuledGround from '../drawing/RuledGround.vue'
import PageHead from '../frame/PageHead.vue'
import { writtenPage } from '../frame/handbook/pages'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import { fine, plain } from '../kit/units'
import { tint } from '../look/tint'
import { useEdits } from '../state/edits'
import { freeId } from '../state/fresh'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import KerfSoFar from './KerfSoFar.vue'
import { beside, keyOf, type Face, type Length } from './lengths'
import TendedDays from './TendedDays.vue'
import WhatItSays from './WhatItSays.vue'

/** Parts that were cut, measured: the lengths that tell most, typed one after another, and what they say together. */
const workshop = useWorkshop()
const edits = useEdits()
const route = useRoute()
const slug = computed(() => String(route.params.slug))
const shown = ref<Schemas['MeasuredShown'] | null>(null)
const trouble = ref('')
const face = ref<Face>('top')
const wanted = ref<string | null>(null)
/** Lengths that were picked on the drawing beside those that tell most. */
const more = ref<string[]>([])
/** The readings that are typed now: those of today, or new ones. */
const current = ref('')

async function look(): Promise<void> {
  const { data, error } = await client.GET('/api/projects/{slug}/measured', { params: { path: { slug: slug.value } } })
  trouble.value = data ? '' : sentence(error)
  if (data) shown.value = data
}
watch(slug, (now) => { if (workshop.shown?.slug !== now) void workshop.open(now) }, { immediate: true })
// What was typed before this page was opened is stored first.
watch(() => [slug.value, workshop.shown?.slug, workshop.shown?.version], ([here, open]) => { if (here === open) void edits.inTurn(look) }, { immediate: true })

const today = new Date().toLocaleDateString('en-CA')
const stocks = computed(() => shown.value?.stocks ?? [])
const stock = computed(() => stocks.value.find((one) => one.stock === wanted.value) ?? stocks.value[0] ?? null)
const names = computed(() => Object.fromEntries((workshop.document?.stocks ?? []).map(({ id, name }) => [id, name])))
const machine = computed(() => workshop.document?.machine ?? '')
const kept = computed(() => (shown.value?.measured ?? []).filter((one) => one.stock === stock.value?.stock && one.machine === machine.value))
watch(() => shown.value && stock.value && `${machine.value} ${stock.value.stock}`, (seen) => {
  if (seen) current.value = [...kept.value].reverse().find(({ date }) => date === today)?.id ?? freeId('measured', workshop.document?.measured ?? [])
})
const now = computed(() => kept.value.find(({ id }) => id === current.value) ?? null)
const typed = computed(() => workshop.document?.measured.find(({ id }) => id === current.value)?.lengths ?? [])

const asked = computed<Length[]>(() => {
  const read = new Set([...typed.value.map(keyOf), ...more.value])
  return (stock.value?.lengths ?? []).filter((one) => one.asked || read.has(keyOf(one)))
})
const others = computed(() => (stock.value?.lengths ?? []).filter((one) => !asked.value.includes(one)))

/** What nothing explains of a reading, as it is told. */
function restOf(length: Length): string {
  const read = now.value?.reads.find((one) => keyOf(one) === keyOf(length) && one.face === face.value)
  if (!read || read.left_out) return read ? 'left out' : ''
  const rest = fine(Math.abs(read.rest), workshop.unit)
  return `rest ${Number(rest) === 0 ? '' : read.rest > 0 ? '+' : '−'}${rest}`
}

function readingOf(length: Length): Size {
  return typed.value.find((one) => keyOf(one) === keyOf(length) && one.face === face.value)?.reading ?? { text: '', unit: workshop.unit }
}

/** Another sheet, cut since: its readings are new ones. */
function again(): void {
  current.value = freeId('measured', workshop.document?.measured ?? [])
  more.value = []
}

/** Stored with all others of the same day; an empty one is taken out. */
function save(length: Length, reading: Size): Promise<Refusal | null> {
  return edits.edit((document) => {
    const before = document.measured.find(({ id }) => id === current.value)?.lengths ?? []
    const rest = before.filter((one) => keyOf(one) !== keyOf(length) || one.face !== face.value)
    const readings = [...rest, ...(reading.text.trim() ? [{ ...length, reading, face: face.value }] : [])]
      .map(({ part, cut_out, way, reading: read, face: on }) => ({ part, cut_out, way, reading: read, face: on }))
    if (!readings.length) return before.length ? { do: 'remove measured', id: current.value } : null
    return { do: 'measure parts', id: current.value, date: today, readings }
  })
}

/** A machine for practice: its parts are picked up and read, as a hand with a caliper would. */
const practice = computed(() => !!workshop.document?.machines.find(({ id }) => id === machine.value)?.lies)
async function pickUp(): Promise<void> {
  const query = { stock: stock.value?.stock ?? '', id: current.value, face: face.value }
  const { data, error } = await client.GET('/api/projects/{slug}/picked-up', { params: { path: { slug: slug.value }, query } })
  if (!data) {
    workshop.say(sentence(error))
    return
  }
  const read = data.map(({ reading, ...length }) => ({ ...length, reading: { text: reading, unit: 'mm' as const }, face: face.value }))
  await edits.told(edits.edit((document) => {
    const before = (document.measured.find(({ id }) => id === current.value)?.lengths ?? []).filter((one) => one.face !== face.value)
    const readings = [...before, ...read].map(({ part, cut_out, way, reading, face: on }) => ({ part, cut_out, way, reading, face: on }))
    return { do: 'measure parts', id: current.value, date: today, readings }
  }))
}

const placed = computed(() => {
  const ids = new Set(stock.value?.lengths.map(({ part }) => part))
  return beside((workshop.shown?.parts ?? []).filter(({ id }) => ids.has(id)))
})
const box = computed(() => ({
  left: Math.min(0, ...placed.value.map(({ part, x }) => part.bounds.left + x)),
  right: Math.max(10, ...placed.value.map(({ part, x }) => part.bounds.right + x)),
  bottom: Math.min(-10, ...placed.value.map(({ part, y }) => part.bounds.bottom + y)),
  top: Math.max(0, ...placed.value.map(({ part, y }) => part.bounds.top + y)),
}))
const fill = computed(() => tint(workshop.document?.stocks.find(({ id }) => id === stock.value?.stock)))
const at = computed(() => new Map(placed.value.map(({ part, x, y }) => [part.id, { x, y }])))

function ends(length: Length): { a: [number, number]; b: [number, number] } {
  const { x, y } = at.value.get(length.part) ?? { x: 0, y: 0 }
  return { a: [length.x1 + x, length.y1 + y], b: [length.x2 + x, length.y2 + y] }
}

/** Its number stands on its line, clear of where others cross it in the middle. */
function disc(length: Length, index: number): [number, number] {
  const { a, b } = ends(length)
  const share = [0.3, 0.42, 0.62][index % 3] ?? 0.5
  return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share]
}

function pick(length: Length): void {
  more.value = [...more.value, keyOf(length)]
}

const page = ref('')
void writtenPage('when-it-does-not-fit').then((html) => { page.value = html })

const column = ref<HTMLElement | null>(null)
function focus(index: number): void {
  column.value?.querySelectorAll<HTMLInputElement>('.reading input')[index]?.focus()
}
</script>

<template>
  <main class="measured">
    <PageHead :title="`Measured on ${workshop.document?.name ?? '…'}`" :back-to="`/projects/${slug}/measure`" back="Back to it" />
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <div v-if="shown && !stock" class="empty">
      <h2>Nothing to measure yet</h2>
      <p>Once a part is drawn, its lengths that tell most of the machine are shown here, to be measured when it is cut.</p>
    </div>
    <template v-else-if="stock">
      <RuledGround :box="box" label="Parts that were cut, with the lengths to measure" tight>
        <template #default="{ view }">
          <g :transform="view.place.value">
            <path v-for="one in placed" :key="one.part.id" :d="one.part.path" :transform="`translate(${one.x} ${-one.y})`" :fill="fill" fill-rule="evenodd" class="part" vector-effect="non-scaling-stroke" />
          </g>
          <line v-for="length in others" :key="keyOf(length)" class="other" :x1="view.toScreen(...ends(length).a).x" :y1="view.toScreen(...ends(length).a).y" :x2="view.toScreen(...ends(length).b).x" :y2="view.toScreen(...ends(length).b).y" role="button" tabindex="0" :aria-label="`Measure ${length.called}`" @pointerdown.stop="pick(length)" @keydown.enter.prevent="pick(length)" @keydown.space.prevent="pick(length)" />
          <g v-for="(length, index) in asked" :key="keyOf(length)" class="length" :class="{ read: readingOf(length).text }" @pointerdown.stop.prevent="focus(index)">
            <line :x1="view.toScreen(...ends(length).a).x" :y1="view.toScreen(...ends(length).a).y" :x2="view.toScreen(...ends(length).b).x" :y2="view.toScreen(...ends(length).b).y" />
            <circle :cx="view.toScreen(...ends(length).a).x" :cy="view.toScreen(...ends(length).a).y" r="3" />
            <circle :cx="view.toScreen(...ends(length).b).x" :cy="view.toScreen(...ends(length).b).y" r="3" />
            <g :transform="`translate(${view.toScreen(...disc(length, index)).x} ${view.toScreen(...disc(length, index)).y})`">
              <circle r="10" class="disc" /><text dy="4">{{ index + 1 }}</text>
            </g>
          </g>
        </template>
      </RuledGround>
      <section ref="column" class="column" aria-label="Readings">
        <h2>As the caliper reads</h2>
        <ChoiceField v-if="stocks.length > 1" label="Parts of" :value="stock.stock" :options="stocks.map((one) => one.stock)" :names="names" :save="(one) => { wanted = one }" />
        <WayField label="Measured on the" :value="face" :options="['top', 'bottom']" :names="{ top: 'upper face', bottom: 'lower face' }" :save="(one) => { face = one }" />
        <p class="explain">Numbered on the drawing; Tab goes on. Three tell something, six most of it. Press another line to measure that too; the short one below a part is its thickness.</p>
        <p v-if="practice"><ActButton look="ink" @click="pickUp">Pick up the parts and read them</ActButton></p>
        <div v-for="(length, index) in asked" :key="`${keyOf(length)} ${face}`" class="reading">
          <SizeField :label="`${index + 1}. ${length.called}`" :size="readingOf(length)" :save="(size) => save(length, size)" />
          <span class="meant">meant {{ plain(length.meant, workshop.unit) }}<br>{{ restOf(length) }}</span>
        </div>
        <WhatItSays v-if="now" :sheet="now" :lengths="stock.lengths" :stock-name="names[stock.stock] ?? ''" @pick="pick" />
        <KerfSoFar :stock="stock.stock" :machine="machine" />
        <TendedDays :machine="machine" />
        <FoldSection title="When it does not fit" name="when-it-does-not-fit" folded>
          <!-- eslint-disable-next-line vue/no-v-html -->
          <div class="handbook" v-html="page"></div>
        </FoldSection>
        <template v-if="kept.length > (now ? 1 : 0)">
          <h3>Measured before</h3>
          <ul class="before">
            <li v-for="one in kept.filter(({ id }) => id !== current)" :key="one.id">{{ one.date }}: {{ one.reads.length }} {{ one.reads.length === 1 ? 'reading' : 'readings' }}, kerf {{ fine(one.kerf + (one.estimates[0]?.value ?? 0), workshop.unit) }} <ActButton @click="current = one.id">See it</ActButton></li>
          </ul>
        </template>
        <p v-if="now" class="in-line"><ActButton @click="again">Cut and measure again</ActButton> <ActButton @click="edits.change({ do: 'remove measured', id: current })">Remove these readings</ActButton></p>
      </section>
    </template>
  </main>
</template>

<style scoped>
.measured { min-height: 100%; display: grid; grid-template: 46px minmax(0, calc(var(--page) - 46px)) / minmax(0, 1fr) 380px; }
.why, .empty { grid-column: 1 / -1; }
.column { border-left: 1px solid var(--ink); padding: 14px; overflow: auto; display: grid; gap: 6px; align-content: start; }
.reading { display: grid; grid-template-columns: minmax(0, 1fr) 92px; align-items: center; gap: 8px; }
.meant { color: var(--soft-ink); font-size: 12px; text-align: right; }
.explain { color: var(--soft-ink); font-size: 12px; }
.handbook :deep(h1) { display: none; }
.handbook :deep(h2) { font-size: 14px; margin: 10px 0 4px; }
.handbook :deep(ol), .handbook :deep(ul) { padding-left: 18px; margin: 0; }
.before { margin: 0; padding-left: 16px; }
.part { stroke: var(--ink); stroke-width: 1.2; pointer-events: none; }
.length line { stroke: var(--accent); stroke-width: 1.6; }
.length circle { fill: var(--accent); }
.length .disc { fill: var(--paper); stroke: var(--accent); stroke-width: 1.4; cursor: pointer; }
.length text { text-anchor: middle; font-size: 12px; font-weight: 620; fill: var(--accent); pointer-events: none; }
.length.read line { stroke: var(--ink); }
.length.read circle { fill: var(--ink); }
.length.read .disc { fill: var(--ink); stroke: var(--ink); }
.length.read text { fill: var(--paper); }
.other { stroke: rgb(23 63 143 / 40%); stroke-width: 4; stroke-dasharray: 1 5; cursor: pointer; outline: none; }
.other:hover, .other:focus-visible { stroke: var(--accent); }
@media (max-width: 900px) {
  .measured { grid-template: auto 60vh auto / 1fr; }
  .column { border-left: 0; border-top: 1px solid var(--ink); }
}
</style>

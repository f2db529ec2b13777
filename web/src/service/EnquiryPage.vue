<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import { freshKey } from '../api/order'
import RuledGround from '../drawing/RuledGround.vue'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import RowsTable from '../kit/RowsTable.vue'
import TickField from '../kit/TickField.vue'
import WayField from '../kit/WayField.vue'
import FoldedOrder from './FoldedOrder.vue'
import { Queue } from '../state/queue'
import { priced } from '../kit/money'
import { inBoth, useCatalogue, type Enquiry, type Wanted } from './service'

/** A file as the service sees it, what it is to be made of, and what that costs. */
const route = useRoute()
const router = useRouter()
const { catalogue, money } = useCatalogue()
const enquiry = shallowRef<Enquiry | null>(null)
const trouble = ref('')
const at = ref(0)
const chosen = ref('')

async function look(): Promise<void> {
  const { data, error } = await client.GET('/api/service/files/{number}', { params: { path: { number: Number(route.params.id) } } })
  if (data) enquiry.value = data
  else trouble.value = sentence(error)
}
onMounted(look)
watch(() => route.params.id, look)

const part = computed(() => enquiry.value?.parts.find(({ number }) => number === at.value) ?? enquiry.value?.parts[0] ?? null)
const box = computed(() => {
  const { left = 0, bottom = 0, width = 100, height = 100 } = part.value ?? {}
  return { left, bottom, right: left + width, top: bottom + height }
})
const bend = computed(() => part.value?.bends.find(({ id }) => id === chosen.value) ?? null)
const stock = computed(() => catalogue.value?.stocks.find(({ id }) => id === enquiry.value?.wanted.stock) ?? null)
const finishes = computed(() => catalogue.value?.finishes.filter(({ id }) => stock.value?.finishes.includes(id)) ?? [])
const ofPart = computed(() => enquiry.value?.rules.filter((rule) => rule.part === part.value?.number) ?? [])
const ofAll = computed(() => enquiry.value?.rules.filter((rule) => rule.part === null || rule.part === undefined) ?? [])
const others = computed(() => enquiry.value?.rules.filter((rule) => typeof rule.part === 'number' && rule.part !== part.value?.number).length ?? 0)
const stops = computed(() => enquiry.value?.rules.some(({ stops }) => stops) ?? true)

const priceLines = computed(() => {
  const quote = enquiry.value?.quote
  if (!quote) return []
  const lines = quote.lines.map((line) => ({ what: line.what, amount: `${line.amount} ${line.unit}`, each: line.each ? `at ${line.each}` : '', total: line.total.toFixed(2), sum: false }))
  return [...lines, { what: 'Together', amount: '', each: '', total: priced(quote.total, money.value), sum: true }]
})
type Line = (typeof priceLines.value)[number]
const COLUMNS = [
  { key: 'what', title: 'What', least: 110, text: (row: Line) => row.what },
  { key: 'amount', title: 'how much', width: 90, number: true, text: (row: Line) => row.amount },
  { key: 'each', title: 'each', width: 72, number: true, text: (row: Line) => row.each },
  { key: 'total', title: 'total', width: 84, number: true, text: (row: Line) => row.total },
]

type Answer = { data?: Enquiry; error?: unknown }
// Each change is made of what the one before it has left.
const queue = new Queue()

/** Asks for a change of the file as it then stands. */
function change(ask: (now: Enquiry) => Promise<Answer>): Promise<void> {
  return queue.inTurn(async () => {
    if (!enquiry.value) return
    const { data, error } = await ask(enquiry.value)
    trouble.value = data ? '' : sentence(error)
    if (data) enquiry.value = data
    else await look()
  })
}

function want(changed: (now: Enquiry) => Partial<Wanted>): Promise<void> {
  return change((now) => {
    const body = { version: now.version, wanted: { ...now.wanted, ...changed(now) } }
    return client.POST('/api/service/files/{number}/wanted', { params: { path: { number: now.id } }, body })
  })
}

/** A file that was not ordered is deleted, or had back. */
function remove(): void {
  void change((now) => client.DELETE('/api/service/files/{number}', { params: { path: { number: now.id } } }))
}

function haveBack(): void {
  void change((now) => client.POST('/api/service/files/{number}/restore', { params: { path: { number: now.id } } }))
}

const untilDay = computed(() => (enquiry.value?.until ? new Date(enquiry.value.until).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' }) : ''))

function takeAs(unit: Enquiry['unit']): void {
  void change((now) => client.POST('/api/service/files/{number}/unit', { params: { path: { number: now.id } }, body: { unit } }))
}

function setBend(changed: Partial<Schemas['SetBend']>): void {
  const { number, id: chosenBend } = { number: part.value?.number, id: bend.value?.id }
  void want((now) => {
    const bends = now.parts.find((one) => one.number === number)?.bends ?? []
    const all = bends.map(({ id, angle, up }) => ({ id, angle, up, ...(id === chosenBend ? changed : {}) }))
    return { bends: { ...now.wanted.bends, [String(number)]: all } }
  })
}

function setAngle(text: string): void {
  const angle = Number(text.replace(',', '.'))
  if (angle >= 0 && angle <= 170) setBend({ angle })
  else trouble.value = `“${text}” is no angle from 0 to 170 degrees.`
}

function finish(id: string, on: boolean): void {
  void want(({ wanted }) => ({ finishes: on ? [...wanted.finishes, id] : wanted.finishes.filter((one) => one !== id) }))
}

// What is pressed again because no answer came is the same order, as long as nothing else was chosen.
const key = freshKey()

async function order(): Promise<void> {
  await queue.done()
  const now = enquiry.value
  if (!now) return
  const { data, error } = await client.POST('/api/service/files/{number}/order', { params: { path: { number: now.id } }, body: { version: now.version, key: `${key}-${now.version}` } })
  trouble.value = data ? '' : sentence(error)
  if (data) await router.push('/service')
}
</script>

<template>
  <main class="enquiry">
    <PageHead :title="enquiry?.name ?? '…'" back-to="/service" :back="catalogue?.name ?? 'The service'">
      <p v-if="enquiry?.orders.length" role="status">Ordered as {{ enquiry.orders.join(', ') }}.</p>
      <p v-else-if="untilDay" role="status">Deleted; it is kept until {{ untilDay }}. <ActButton @click="haveBack">Have it back</ActButton></p>
      <p v-else-if="enquiry"><ActButton @click="remove">Delete the file</ActButton></p>
    </PageHead>
    <section class="drawn" :class="{ both: part?.folded }">
      <RuledGround v-if="part" :key="part.number" :box="box" :label="`${part.called} as it is cut`">
        <template #default="{ view }">
          <g :transform="view.place.value"><path :d="part.path" class="part" fill-rule="evenodd" vector-effect="non-scaling-stroke" /></g>
          <g v-for="one in part.bends" :key="one.id" class="bend" :class="{ up: one.up, chosen: one.id === chosen }">
            <line v-bind="{ x1: view.toScreen(one.x1, one.y1).x, y1: view.toScreen(one.x1, one.y1).y, x2: view.toScreen(one.x2, one.y2).x, y2: view.toScreen(one.x2, one.y2).y }" class="line" />
            <line
              v-bind="{ x1: view.toScreen(one.x1, one.y1).x, y1: view.toScreen(one.x1, one.y1).y, x2: view.toScreen(one.x2, one.y2).x, y2: view.toScreen(one.x2, one.y2).y }"
              class="grab" tabindex="0" role="button" :aria-label="`${one.called} on the drawing`" @click="chosen = one.id" @keydown.enter.space.prevent="chosen = one.id"
            />
            <text :x="(view.toScreen(one.x1, one.y1).x + view.toScreen(one.x2, one.y2).x) / 2" :y="(view.toScreen(one.x1, one.y1).y + view.toScreen(one.x2, one.y2).y) / 2 - 5">{{ one.called }}: {{ one.angle }}° {{ one.up ? 'up' : 'down' }}</text>
          </g>
          <g v-for="(rule, index) in ofPart.filter((one) => typeof one.x === 'number')" :key="`r${index}`" class="rule">
            <circle :cx="view.toScreen(rule.x ?? 0, 0).x" :cy="view.toScreen(0, rule.y ?? 0).y" r="9"><title>{{ rule.text }}</title></circle>
          </g>
        </template>
      </RuledGround>
      <FoldedOrder v-if="enquiry && part?.folded" :enquiry="enquiry.id" :version="enquiry.version" :part="part.number" :chosen="chosen" />
    </section>
    <aside v-if="enquiry" aria-label="The order">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <h2>What is seen in it</h2>
      <div v-for="file in enquiry.files" :key="file.name" class="seen">
        <p v-if="enquiry.files.length > 1"><strong>{{ file.name }}</strong></p>
        <p>{{ file.closed }} closed outlines, {{ file.open }} open, {{ file.doubled }} drawn twice. <template v-if="file.texts.length">Text: {{ file.texts.slice(0, 4).join(', ') }}. </template>Unit {{ file.unit }}.</p>
        <p class="soft">Layers: {{ file.layers.map((layer) => `${layer.name} (${layer.purpose})`).join(', ') }}</p>
      </div>
      <h3>Parts</h3>
      <ul class="parts">
        <li v-for="one in enquiry.parts" :key="one.number">
          <ActButton :pressed="one.number === part?.number" @click="at = one.number; chosen = ''">{{ one.called }}</ActButton> × {{ one.count }}<template v-if="one.bends.length">, {{ one.bends.length }} bends</template>
        </li>
      </ul>
      <template v-if="part">
        <p class="size">{{ inBoth(part.width) }}<br />by {{ inBoth(part.height) }}</p>
        <WayField label="The numbers of the file are" :value="enquiry.unit" :options="['as the file says', 'mm', 'in']" :names="{ 'as the file says': 'as it says', in: 'inch' }" :save="takeAs" />
        <TickField :value="enquiry.wanted.size_is_right" :save="(size_is_right) => void want(() => ({ size_is_right }))">These sizes are right</TickField>
      </template>
      <h2>Made of</h2>
      <div class="stack">
        <ChoiceField label="Material" :value="enquiry.wanted.stock || null" empty="choose one" :options="catalogue?.stocks.map(({ id }) => id) ?? []" :names="Object.fromEntries(catalogue?.stocks.map(({ id, name }) => [id, name]) ?? [])" :save="(stock) => void want(() => ({ stock, thickness: 0 }))" />
        <ChoiceField v-if="stock" label="Thickness, as it measures" :value="enquiry.wanted.thickness || null" empty="choose one" :options="stock.offers.map(({ thickness }) => thickness)" :names="Object.fromEntries(stock.offers.map(({ thickness }) => [thickness, `${thickness} mm`]))" :save="(thickness) => void want(() => ({ thickness }))" />
        <TickField v-for="one in finishes" :key="one.id" :value="enquiry.wanted.finishes.includes(one.id)" :save="(on) => finish(one.id, on)">{{ one.name }}</TickField>
        <PlainField label="Sets of all parts" :value="enquiry.wanted.sets" :most="1000" :save="(sets) => void want(() => ({ sets: Number(sets) }))" />
      </div>
      <template v-if="part?.bends.length">
        <h3>Bends</h3>
        <ul class="parts">
          <li v-for="one in part.bends" :key="one.id"><ActButton :pressed="one.id === chosen" @click="chosen = one.id">{{ one.called }}</ActButton> {{ one.angle }}° {{ one.up ? 'up' : 'down' }}</li>
        </ul>
        <div v-if="bend" class="stack">
          <PlainField :key="bend.id" :label="`Angle of ${bend.called}, degrees from flat`" :value="String(bend.angle)" :save="setAngle" />
          <WayField :label="`Direction of ${bend.called}`" :value="bend.up ? 'up' : 'down'" :options="['up', 'down']" :save="(way) => setBend({ up: way === 'up' })" />
        </div>
      </template>
      <h2>What it costs</h2>
      <RowsTable v-if="enquiry.quote" label="The price by its lines" :rows="priceLines" :columns="COLUMNS" :mark="(row) => (row.sum ? 'sum' : '')" />
      <p v-if="enquiry.quote" class="soft">Done in {{ enquiry.quote.days }} days. A set costs {{ enquiry.quote.breaks.map(({ sets, each }) => `${each.toFixed(2)} from ${sets}`).join(', ') }}, setting up apart.</p>
      <p v-else class="soft">Told once a material and a thickness are chosen.</p>
      <ul v-if="ofAll.length || ofPart.length" class="rules" aria-label="What stands in the way">
        <li v-for="(rule, index) in [...ofPart, ...ofAll]" :key="index" :class="{ stops: rule.stops }">{{ rule.text }}</li>
      </ul>
      <p v-if="others" class="soft">And {{ others }} more, on other parts.</p>
      <p class="order"><ActButton look="main" :disabled="stops || Boolean(untilDay)" @click="order">Order it{{ enquiry.quote ? `, ${priced(enquiry.quote.total, money)}` : '' }}</ActButton></p>
      <p v-if="!stops && (ofPart.length || others)" class="soft">What is told above is looked at there, and may send it back.</p>
    </aside>
  </main>
</template>

<style scoped>
.enquiry { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) / minmax(0, 1fr) 380px; }
.drawn { min-width: 0; min-height: 0; display: grid; grid-template: minmax(0, 1fr) / minmax(0, 1fr); }
.drawn.both { grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); }
:deep(.sum) { font-weight: 650; }
aside { border-left: 1px solid var(--ink); overflow-y: auto; padding: 10px 14px 18px; background: var(--ground); }
.seen p { margin: 2px 0; }
.soft { color: var(--soft-ink); font-size: 12px; }
.size { font-size: 15px; font-weight: 600; margin: 6px 0; font-variant-numeric: tabular-nums; }
.parts { list-style: none; margin: 4px 0 8px; padding: 0; display: flex; flex-wrap: wrap; gap: 3px 16px; max-height: 120px; overflow-y: auto; }
.parts [aria-pressed='true'] { color: var(--ink); font-weight: 650; text-decoration: none; }
.rules { margin: 8px 0; padding-left: 16px; }
.rules .stops { color: var(--wrong); }
.order { margin: 12px 0 4px; }
.part { fill: #d4d6d4; stroke: var(--ink); stroke-width: 1.2; pointer-events: none; }
.line { stroke: var(--ink); stroke-width: 1.3; stroke-dasharray: 14 4 2 4 2 4; pointer-events: none; }
.up .line { stroke-dasharray: 14 5; }
.chosen .line { stroke: var(--accent); stroke-width: 3; }
.grab { stroke: transparent; stroke-width: 12; cursor: pointer; outline: none; }
.grab:focus-visible { stroke: var(--accent-wash); }
.bend text { font-size: 11px; text-anchor: middle; pointer-events: none; paint-order: stroke; stroke: var(--ground); stroke-width: 3px; }
.bend.chosen text { fill: var(--accent); font-weight: 650; }
.rule circle { fill: none; stroke: var(--wrong); stroke-width: 2; }
</style>

<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'

import { client, type Fit, type Size, type Stock } from '../api/client'
import { MATERIALS } from '../api/tables'
import CouponHistory from './CouponHistory.vue'
import CouponResults from './CouponResults.vue'
import BendingFields from './BendingFields.vue'
import BestSquare from './BestSquare.vue'
import CutterWidth from './CutterWidth.vue'
import KerfBySetting from './KerfBySetting.vue'
import HeatFields from './HeatFields.vue'
import KerfByDirection from './KerfByDirection.vue'
import LowerFace from './LowerFace.vue'
import WoodFields from './WoodFields.vue'
import NewCoupon from './NewCoupon.vue'
import NewSettingsCoupon from './NewSettingsCoupon.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import { bareMillimetres, plain, typed, withUnit } from '../kit/units'
import { freeId } from '../state/fresh'
import { tint } from '../look/tint'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { keepForAll } from '../state/library'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import OverSheet from './OverSheet.vue'
import ReadingsScale from './ReadingsScale.vue'
import StationFrame from '../frame/StationFrame.vue'
import ActButton from '../kit/ActButton.vue'
import ChoiceBox from '../kit/ChoiceBox.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import GoLink from '../kit/GoLink.vue'
import WayField from '../kit/WayField.vue'

/** The sheet in the hand: caliper readings, kerf, clearances. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const library = ref<Stock[]>([])
const kept = ref('')

const FITS: { fit: Fit; feel: string }[] = [
  { fit: 'loose', feel: 'falls apart' },
  { fit: 'sliding', feel: 'holds until tapped' },
  { fit: 'glue', feel: 'firm, good for glue' },
  { fit: 'press', feel: 'stiff without glue' },
]

const stock = computed(() => picked.stock)
const known = computed(() => picked.known)
const facts = computed(() => (stock.value ? workshop.shown?.stocks[stock.value.id] : undefined))
/** What was measured on the face that the beam comes in at; parts may be made for another one. */
const above = computed(() => facts.value?.ways?.across ?? facts.value?.walls?.above ?? facts.value?.kerf ?? 0)
const values = computed(() => stock.value?.readings.map(bareMillimetres) ?? [])

onMounted(async () => {
  const { data } = await client.GET('/api/library')
  if (data) library.value = data
})

type Change = Partial<Stock> | ((stock: Stock) => Partial<Stock>)

function put(change: Change): Promise<Refusal | null> {
  return edits.editStock(stock.value?.id ?? '', (now) => (typeof change === 'function' ? change(now) : change))
}

function now(change: Change): void {
  void edits.told(put(change))
}

function saveReading(index: number, size: Size): Promise<Refusal | null> {
  return put(({ readings }) => ({ readings: readings.map((old, i) => (i === index ? size : old)) }))
}

function removeReading(index: number): void {
  now(({ readings }) => ({ readings: readings.filter((_, i) => i !== index) }))
}

function addReading(size: Size): Promise<Refusal | null> {
  return size.text ? put(({ readings }) => ({ readings: [...readings, size] })) : Promise.resolve(null)
}

function saveSheet(index: number, change: Partial<Stock['sheets'][number]>): Promise<Refusal | null> {
  return put(({ sheets }) => ({ sheets: sheets.map((old, i) => (i === index ? { ...old, ...change } : old)) }))
}

function addSheet(): void {
  const sheet = { width: typed(300, workshop.unit), height: typed(200, workshop.unit), outline: [], keep_outs: [] }
  now(({ sheets }) => ({ sheets: [...sheets, sheet] }))
}

/** A kerf belongs to the machine that cuts. */
function setKerf(kerf: Stock['kerf']): Promise<Refusal | null> {
  return edits.editKnown(stock.value?.id ?? '', () => ({ kerf }))
}

/** Changes one measure of the test cut that the kerf is worked out from. */
function saveTestCut(change: Record<string, Size | Size[]>): Promise<Refusal | null> {
  return edits.editKnown(stock.value?.id ?? '', ({ kerf }) => ({ kerf: { ...kerf, ...change } as Stock['kerf'] }))
}

function saveClearance(fit: Fit, size: Size): Promise<Refusal | null> {
  return edits.editKnown(stock.value?.id ?? '', ({ clearances }) => ({ clearances: { ...clearances, [fit]: size } }))
}

function setKerfWay(how: string): void {
  const width = above.value || 0.2
  const mm = (value: number): Size => ({ text: plain(value, 'mm'), unit: 'mm' })
  if (how === 'typed') void edits.told(setKerf({ how: 'typed', width: mm(width) }))
  // Ten pieces of 10 mm, and a 20 mm square: the sizes that give the kerf of now, to be overwritten.
  if (how === 'strip') void edits.told(setKerf({ how: 'strip', strip: mm(100), pieces: Array.from({ length: 10 }, () => mm(10 - width)) }))
  if (how === 'plug') void edits.told(setKerf({ how: 'plug', hole: mm(20 + width), plug: mm(20 - width) }))
}

const clearancesSay = computed(() => FITS.map(({ fit }) => `${fit} ${plain(facts.value?.clearance[fit] ?? 0, workshop.unit)}`).join(', '))
const couponsSay = computed(() => {
  const last = known.value?.history.at(-1)
  const machine = picked.machine?.name ?? 'this machine'
  return last ? `the last of ${last.date}, ${machine}` : `none of this stock on ${machine} yet`
})

function savePieces(size: Size): Promise<Refusal | null> {
  const texts = size.text.split(size.text.includes(';') ? ';' : /\s+/).map((text) => text.trim()).filter(Boolean)
  return saveTestCut({ pieces: texts.map((text) => ({ text, unit: size.unit })) })
}

const pieces = computed<Size>(() => {
  const kerf = picked.known?.kerf
  return kerf?.how === 'strip' ? { text: kerf.pieces.map((p) => p.text).join('  '), unit: kerf.pieces[0]?.unit ?? 'mm' } : { text: '', unit: 'mm' }
})

async function add(stock: Stock): Promise<void> {
  if (await edits.change({ do: 'put stock', stock })) picked.pick({ stockId: stock.id })
}

async function addNew(): Promise<void> {
  const id = freeId('stock', workshop.document?.stocks ?? [])
  if (await edits.change({ do: 'begin stock', id })) picked.pick({ stockId: id })
}

function addKept(name: string): void {
  const found = library.value.find((s) => s.name === name)
  const document = workshop.document
  if (!found || !document) return
  const taken = document.stocks.some((s) => s.id === found.id)
  void add(taken ? { ...found, id: freeId('stock', document.stocks) } : found)
}

async function keep(): Promise<void> {
  if (!stock.value) return
  const { said, trouble } = await keepForAll.stock(stock.value)
  kept.value = said || trouble
  library.value = (await client.GET('/api/library')).data ?? library.value
}

function remove(): void {
  if (stock.value) void edits.change({ do: 'remove stock', id: stock.value.id })
}
</script>

<template>
  <StationFrame title="Stock">
    <template #drawing>
      <div class="measure">
        <nav class="stocks" aria-label="Stocks">
          <ActButton look="bare"
            v-for="other in workshop.document?.stocks"
            :key="other.id"
            class="stock"
            :class="{ chosen: other.id === stock?.id }"
            :pressed="other.id === stock?.id"
            @click="picked.pick({ stockId: other.id })"
          >
            <i :style="{ background: tint(other) }"></i>{{ other.name }}
          </ActButton>
          <ActButton look="ink" @click="addNew">Add a stock</ActButton>
          <ChoiceBox v-if="library.length" class="kept" label="Add a stock from the library" :value="null" empty="from the library …" :choices="library.map(({ name }) => ({ value: name, label: name }))" :save="addKept" />
        </nav>
        <div v-if="!stock" class="empty">
          <h2>No stock yet</h2>
          <p>Take the sheet you will cut, measure it in a few places with the calipers, and write the readings down here. Every notch and slot follows from them.</p>
          <ActButton look="main" @click="addNew">Add a stock</ActButton>
        </div>
        <div v-else-if="known" class="columns">
          <section>
            <h2>Thickness</h2>
            <p v-if="facts" class="big-number">
              {{ withUnit(facts.thickness, workshop.unit) }}
              <small v-if="facts.readings">mean of {{ facts.readings }} · spread {{ withUnit(facts.spread, workshop.unit) }} · thickest {{ withUnit(facts.thickest, workshop.unit) }}</small>
              <small v-else>nominal; no reading yet</small>
            </p>
            <ReadingsScale v-if="facts && values.every(Number.isFinite)" :readings="values" :mean="facts.thickness" />
            <h3>Caliper readings</h3>
            <div class="readings">
              <div v-for="(reading, index) in stock.readings" :key="index" class="in-line">
                <SizeField :label="`Reading ${index + 1}`" :size="reading" :save="(size) => saveReading(index, size)" small />
                <ActButton :aria-label="`Remove reading ${index + 1}`" @click="removeReading(index)">remove</ActButton>
              </div>
              <SizeField :key="stock.id" label="Add a reading" :size="{ text: '', unit: workshop.unit }" :save="addReading" small />
            </div>
            <SizeField label="Nominal thickness" :size="stock.nominal" :save="(size) => put({ nominal: size })" />
            <OverSheet v-if="facts" :stock="stock" :facts="facts" />
          </section>
          <section>
            <h2>Kerf</h2>
            <CutterWidth v-if="facts?.shank" :stock="stock" :facts="facts" />
            <template v-else>
              <p v-if="facts" class="big-number">{{ withUnit(facts.kerf, workshop.unit) }} <small>full width of the cut{{ facts.walls ? `, ${known.made_for === 'the middle' ? 'in' : 'on'} ${known.made_for}` : '' }}{{ picked.machine ? `, ${picked.machine.name}` : '' }}</small></p>
              <WayField label="How the kerf is known" :value="known.kerf.how" :options="['typed', 'strip', 'plug']" :names="{ strip: 'from a cut strip', plug: 'from a plug and its hole' }" :save="setKerfWay" />
              <div class="stack">
                <SizeField v-if="known.kerf.how === 'typed'" :label="known.up ? 'Kerf along x' : 'Kerf'" :size="known.kerf.width" :value="above" :save="(width) => setKerf({ how: 'typed', width })" />
                <template v-if="known.kerf.how === 'strip'">
                  <SizeField label="Strip length" :size="known.kerf.strip" :save="(strip) => saveTestCut({ strip })" />
                  <SizeField label="Measured pieces" :size="pieces" :save="savePieces" class="wide" />
                  <p class="explain">(strip − all {{ known.kerf.pieces.length }} pieces) / {{ known.kerf.pieces.length }} = {{ withUnit(above, workshop.unit) }}</p>
                </template>
                <template v-if="known.kerf.how === 'plug'">
                  <SizeField label="Hole" :size="known.kerf.hole" :save="(hole) => saveTestCut({ hole })" />
                  <SizeField label="Plug" :size="known.kerf.plug" :save="(plug) => saveTestCut({ plug })" />
                  <p class="explain">(hole − plug) / 2 = {{ withUnit(above, workshop.unit) }}</p>
                </template>
              </div>
              <KerfByDirection v-if="facts" :stock="stock.id" :known="known" :facts="facts" />
              <LowerFace v-if="facts" :stock="stock.id" :known="known" :facts="facts" />
              <KerfBySetting v-if="facts?.kerfs.length" :stock="stock.id" :known="known" :facts="facts" />
            </template>
            <p><GoLink :to="`/projects/${workshop.shown?.slug}/measured`">Measure parts that were cut</GoLink></p>
            <FoldSection title="Clearance by fit" :says="clearancesSay" name="clearances" folded>
              <div class="stack">
                <div v-for="{ fit, feel } in FITS" :key="fit" class="fit">
                  <SizeField :label="fit" :size="known.clearances[fit]" :save="(size) => saveClearance(fit, size)" />
                  <small>{{ feel }}</small>
                </div>
              </div>
              <p class="explain">Opening less insert; a minus is interference. Starting values are common practice; a test on your own machine replaces them.</p>
            </FoldSection>
          </section>
        </div>
        <FoldSection v-if="stock && known" title="Kerf and fits from a coupon" :says="couponsSay" name="fit-coupons" folded>
          <div class="columns">
            <NewCoupon :stock="stock" />
            <CouponResults :stock="stock" />
          </div>
          <CouponHistory :known="known" />
        </FoldSection>
        <FoldSection v-if="stock && known" title="Speed and power from a coupon" name="settings-coupons" folded>
          <div class="columns">
            <NewSettingsCoupon :stock="stock" />
            <BestSquare :stock="stock" />
          </div>
        </FoldSection>
      </div>
    </template>
    <template v-if="stock">
      <h2>Stock</h2>
      <div class="stack">
        <PlainField :key="`${stock.id}name`" label="Name" :value="stock.name" :save="(name) => now({ name })" />
        <ChoiceField label="Material" :value="stock.material" :options="MATERIALS" :save="(material) => now({ material })" />
        <ChoiceField label="Grain" :value="stock.grain" :options="['none', 'along width', 'along height']" :save="(grain) => now({ grain })" />
        <SizeField label="Smallest web" :size="stock.smallest_web" :save="(size) => put({ smallest_web: size })" />
      </div>
      <FoldSection title="How it is bent" name="bending" folded><BendingFields :key="`${stock.id}bending`" :stock="stock" :put="put" /></FoldSection>
      <FoldSection v-if="stock.material === 'solid wood'" title="How it moves" :says="stock.wood?.species" name="wood" folded><WoodFields :key="`${stock.id}wood`" :stock="stock" :facts="facts ?? null" :put="put" /></FoldSection>
      <FoldSection v-if="picked.machine?.kind !== 'router'" title="Heat of the beam" name="heat" folded><HeatFields :key="`${stock.id}heat`" :stock="stock" :put="put" /></FoldSection>
      <h3>Sheets at hand, in order of preference</h3>
      <div v-for="(sheet, index) in stock.sheets" :key="index" class="sheet">
        <SizeField :label="`Width of sheet ${index + 1}`" :size="sheet.width" :save="(width) => saveSheet(index, { width })" small hide-label />
        <span>×</span>
        <SizeField :label="`Height of sheet ${index + 1}`" :size="sheet.height" :save="(height) => saveSheet(index, { height })" small hide-label />
        <ActButton v-if="stock.sheets.length > 1" :aria-label="`Remove sheet size ${index + 1}`" @click="now(({ sheets }) => ({ sheets: sheets.filter((_, i) => i !== index) }))">remove</ActButton>
      </div>
      <ActButton @click="addSheet">Add a sheet size</ActButton>
      <p class="in-line last">
        <ActButton look="ink" @click="keep">Keep in the library</ActButton>
        <ActButton look="ink" @click="remove">Remove</ActButton>
      </p>
      <p v-if="kept" class="explain" role="status">{{ kept }}</p>
    </template>
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.measure { height: 100%; overflow: auto; padding: 14px 20px; background: var(--ground); }
.stocks { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; padding-bottom: 12px; border-bottom: 1px solid var(--ink); }
.stock { border: 0; border-bottom: 3px solid transparent; background: none; padding: 4px 6px; cursor: pointer; display: flex; gap: 7px; align-items: center; max-width: 260px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.stock.chosen { border-bottom-color: var(--accent); color: var(--accent); font-weight: 600; }
.stock i { width: 22px; height: 14px; border: 1px solid var(--ink); flex: none; }
.kept { width: 150px; }
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 36px; padding-top: 14px; }
.readings { display: grid; gap: 3px; margin-bottom: 12px; }
.readings :deep(.size-field.small) { grid-template-columns: 92px 84px; }
.ways { margin-bottom: 8px; gap: 12px; }
.fit { display: grid; grid-template-columns: 1fr 120px; align-items: center; gap: 10px; }
.fit :deep(.size-field) { grid-template-columns: 60px 1fr; }
.fit small, .explain { color: var(--soft-ink); font-size: 12px; }
.sheet { display: flex; align-items: center; gap: 6px; margin-bottom: 3px; }
.last { margin-top: 14px; }
.wide { grid-template-columns: auto 1fr; }
</style>

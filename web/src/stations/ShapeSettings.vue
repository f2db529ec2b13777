<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, Part, Size } from '../api/client'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { typed } from '../fields/units'
import { copyOf, freeId, newCutOut } from '../parts/fresh'
import { useWorkshop, type Refusal } from '../stores/workshop'
import NamedSizes from './NamedSizes.vue'
import PartMarks from './PartMarks.vue'

/** What is set of a part besides its drawing: name, stock, count, corners, cut-outs. */
const props = defineProps<{
  part: Part
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
  putCut: (id: string, change: (cut: CutOut) => Partial<CutOut>) => Promise<Refusal | null>
}>()

type Corner = Part['shape']['corners'][number]
const CORNERS: Corner['corner'][] = ['top left', 'top right', 'bottom left', 'bottom right']
const ORIGINS: CutOut['origin'][] = ['bottom left', 'bottom right', 'top left', 'top right', 'middle']
const HOLES = { round: 'Round hole', rectangle: 'Rectangle', obround: 'Obround' } as const
const SIDES_OF = { round: ['diameter'], rectangle: ['width', 'height', 'radius'], obround: ['width', 'height'] } as const
const LABELS: Record<string, string> = { diameter: 'Diameter', width: 'Width', height: 'Height', radius: 'Corner radius' }

const workshop = useWorkshop()
const cut = computed(() => workshop.cutout)

function now(change: (part: Part) => Partial<Part>): Promise<boolean> {
  return workshop.told(props.putPart(change))
}

/** For values that are read off a field now, not when the edit's turn comes. */
function set(change: Partial<Part>): void {
  void now(() => change)
}

function text(event: Event): string {
  return (event.target as HTMLInputElement | HTMLSelectElement).value.trim()
}

function cornerOf(corner: Corner['corner']): Corner | undefined {
  return props.part.shape.corners.find((c) => c.corner === corner)
}

function setCorner(corner: Corner['corner'], kind: string): void {
  void now(({ shape }) => {
    const others = shape.corners.filter((c) => c.corner !== corner)
    const size = shape.corners.find((c) => c.corner === corner)?.size ?? typed(5, workshop.unit)
    return { shape: { ...shape, corners: kind === 'square' ? others : [...others, { corner, kind: kind as Corner['kind'], size }] } }
  })
}

function saveCorner(corner: Corner['corner'], size: Size): Promise<Refusal | null> {
  return props.putPart(({ shape }) => ({ shape: { ...shape, corners: shape.corners.map((c) => (c.corner === corner ? { ...c, size } : c)) } }))
}

/** Adds a cut-out and chooses it. */
async function add(make: (part: Part) => CutOut): Promise<void> {
  let added = ''
  const stored = await now((part) => {
    const fresh = make(part)
    added = fresh.id
    return { cutouts: [...part.cutouts, fresh] }
  })
  if (stored) workshop.cutoutId = added
}

function duplicateCut(): void {
  const chosen = cut.value
  if (chosen) void add((part) => ({ ...chosen, id: freeId('cut', part.cutouts) }))
}

function removeCut(): void {
  const gone = workshop.cutoutId
  void now(({ cutouts }) => ({ cutouts: cutouts.filter((c) => c.id !== gone) }))
  workshop.cutoutId = null
}

function save(change: (cut: CutOut) => Partial<CutOut>): Promise<Refusal | null> {
  return props.putCut(workshop.cutoutId ?? '', change)
}

function setOrigin(origin: CutOut['origin']): void {
  void workshop.told(save(() => ({ origin })))
}

function repeat(change: Partial<CutOut['repeat']>): Promise<Refusal | null> {
  return save((one) => ({ repeat: { ...one.repeat, ...change } }))
}

function saveHole(field: string, size: Size): Promise<Refusal | null> {
  return save((one) => ({ hole: { ...one.hole, [field]: size } as CutOut['hole'] }))
}

function holeSize(field: string): Size {
  return (cut.value?.hole as unknown as Record<string, Size>)[field] ?? { text: '0', unit: 'mm' }
}

function value(path: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/${path}`]
}

async function duplicate(): Promise<void> {
  if (!workshop.document) return
  const copy = copyOf(props.part, workshop.document)
  if (await workshop.change({ do: 'put part', part: copy })) workshop.partId = copy.id
}
</script>

<template>
  <h2 class="over">{{ part.name }}</h2>
  <div class="stack">
    <PlainField :key="`${part.id}name`" label="Name" :value="part.name" :save="(name) => set({ name })" />
    <div class="row-field">
      <label for="part-stock">Stock</label>
      <select id="part-stock" class="text-input" :value="part.stock" @change="set({ stock: text($event) })">
        <option v-for="stock in workshop.document?.stocks" :key="stock.id" :value="stock.id">{{ stock.name }}</option>
      </select>
    </div>
    <PlainField :key="`${part.id}count`" label="How many" :value="part.count" :most="500" :save="(count) => set({ count: Number(count) })" />
  </div>
  <p class="in-line actions">
    <button type="button" class="plain-button" @click="duplicate">Duplicate</button>
    <button type="button" class="plain-button" @click="workshop.change({ do: 'remove part', id: part.id })">Delete part</button>
  </p>

  <h3>Corners</h3>
  <div class="corners">
    <div v-for="corner in CORNERS" :key="corner" class="corner">
      <select class="text-input" :aria-label="`${corner} corner`" :value="cornerOf(corner)?.kind ?? 'square'" @change="setCorner(corner, text($event))">
        <option value="square">{{ corner }}: square</option>
        <option value="round">{{ corner }}: round</option>
        <option value="chamfer">{{ corner }}: chamfer</option>
      </select>
      <SizeField v-if="cornerOf(corner)" :label="`Size of the ${corner} corner`" :size="cornerOf(corner)!.size" :value="value(`corners/${corner}`)" :save="(size) => saveCorner(corner, size)" small hide-label />
    </div>
  </div>

  <h3>Cut-outs</h3>
  <p class="in-line">
    <button v-for="(name, kind) in HOLES" :key="kind" type="button" class="plain-button" @click="add((one) => newCutOut(kind, one, workshop.unit))">+ {{ name }}</button>
  </p>
  <ul v-if="part.cutouts.length" class="cuts">
    <li v-for="(one, index) in part.cutouts" :key="one.id">
      <button type="button" class="plain-button" :aria-pressed="one.id === workshop.cutoutId" @click="workshop.cutoutId = one.id">
        {{ index + 1 }}. {{ HOLES[one.hole.kind].toLowerCase() }}<template v-if="one.repeat.columns * one.repeat.rows > 1"> × {{ one.repeat.columns * one.repeat.rows }}</template>
      </button>
    </li>
  </ul>
  <div v-if="cut" class="stack chosen-cut">
    <SizeField v-for="field in SIDES_OF[cut.hole.kind]" :key="`${cut.id}${field}`" :label="LABELS[field] ?? field" :size="holeSize(field)" :value="value(`cutouts/${cut.id}/${field}`)" :save="(size) => saveHole(field, size)" />
    <div class="row-field">
      <label for="cut-origin">Placed from</label>
      <select id="cut-origin" class="text-input" :value="cut.origin" @change="setOrigin(text($event) as CutOut['origin'])">
        <option v-for="origin in ORIGINS" :key="origin">{{ origin }}</option>
      </select>
    </div>
    <SizeField :key="`${cut.id}x`" label="Across" :size="cut.x" :value="value(`cutouts/${cut.id}/x`)" :save="(x) => save(() => ({ x }))" />
    <SizeField :key="`${cut.id}y`" label="Up or down" :size="cut.y" :value="value(`cutouts/${cut.id}/y`)" :save="(y) => save(() => ({ y }))" />
    <SizeField :key="`${cut.id}t`" label="Turned by (degrees)" :size="cut.turn" bare :save="(turn) => save(() => ({ turn }))" />
    <PlainField :key="`${cut.id}columns`" label="In a row" :value="cut.repeat.columns" :most="60" :save="(columns) => void workshop.told(repeat({ columns: Number(columns) }))" />
    <SizeField v-if="cut.repeat.columns > 1" :key="`${cut.id}sx`" label="Step across" :size="cut.repeat.step_x" :value="value(`cutouts/${cut.id}/repeat/step_x`)" :save="(size) => repeat({ step_x: size })" />
    <PlainField :key="`${cut.id}rows`" label="Rows" :value="cut.repeat.rows" :most="60" :save="(rows) => void workshop.told(repeat({ rows: Number(rows) }))" />
    <SizeField v-if="cut.repeat.rows > 1" :key="`${cut.id}sy`" label="Step up" :size="cut.repeat.step_y" :value="value(`cutouts/${cut.id}/repeat/step_y`)" :save="(size) => repeat({ step_y: size })" />
    <p class="in-line">
      <button type="button" class="plain-button" @click="duplicateCut">Duplicate cut-out</button>
      <button type="button" class="plain-button" @click="removeCut">Remove cut-out</button>
    </p>
  </div>
  <PartMarks :part="part" :put-part="putPart" />
  <NamedSizes />
</template>

<style scoped>
.over { overflow-wrap: anywhere; margin-bottom: 6px; }
.actions { margin-top: 6px; gap: 14px; }
.corners { display: grid; gap: 3px; }
.corner { display: grid; grid-template-columns: 1fr auto; gap: 8px; align-items: center; }
.cuts { list-style: none; margin: 6px 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 12px; }
.cuts [aria-pressed='true'] { color: var(--ink); font-weight: 650; text-decoration: none; }
.chosen-cut { border-left: 2px solid var(--accent); padding-left: 8px; margin-top: 6px; }
</style>

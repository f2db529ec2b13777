<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, Part, Schemas, Size } from '../api/client'
import ChoiceField from '../fields/ChoiceField.vue'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { useWorkshop, type Refusal } from '../stores/workshop'
import { freeId, newCutOut } from './fresh'
import KnotFields from './KnotFields.vue'
import LetterFields from './LetterFields.vue'

/** The shapes on a part: cut out, added, kept or sunk; and what is set of the chosen one. */
const props = defineProps<{
  part: Part
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
  putCut: (id: string, change: (cut: CutOut) => Partial<CutOut>) => Promise<Refusal | null>
}>()

type Hole = CutOut['hole']
const ORIGINS: CutOut['origin'][] = ['bottom left', 'bottom right', 'top left', 'top right', 'middle']
const HOLES: Record<Hole['kind'], string> = { round: 'Round hole', rectangle: 'Rectangle', obround: 'Obround', ellipse: 'Ellipse', curve: 'Curve', text: 'Text' }
const DOES: CutOut['does'][] = ['cut out', 'pocket', 'add', 'keep']
const DOING: Record<CutOut['does'], string> = { 'cut out': 'is cut out', pocket: 'is sunk as a pocket', add: 'is added to the part', keep: 'is all that is kept' }
const SIZES: Record<Hole['kind'], Record<string, string>> = {
  round: { diameter: 'Diameter' },
  rectangle: { width: 'Width', height: 'Height', radius: 'Corner radius' },
  obround: { width: 'Width', height: 'Height' },
  ellipse: { width: 'Width', height: 'Height' },
  curve: { width: 'Width', height: 'Height' },
  text: { height: 'Cap height' },
}

const workshop = useWorkshop()
const cut = computed(() => workshop.cutout)
const lettering = computed(() => (cut.value?.hole.kind === 'text' ? cut.value.hole : null))
const curve = computed(() => (cut.value?.hole.kind === 'curve' ? cut.value.hole : null))

function text(event: Event): string {
  return (event.target as HTMLSelectElement).value
}

/** Adds a cut-out and chooses it. */
async function add(make: (part: Part) => CutOut): Promise<void> {
  let added = ''
  const stored = await workshop.told(
    props.putPart((part) => {
      const fresh = make(part)
      added = fresh.id
      return { cutouts: [...part.cutouts, fresh] }
    }),
  )
  if (stored) workshop.cutoutId = added
}

function duplicate(): void {
  const chosen = cut.value
  if (chosen) void add((part) => ({ ...chosen, id: freeId('cut', part.cutouts) }))
}

function remove(): void {
  const gone = workshop.cutoutId
  void workshop.told(props.putPart(({ cutouts }) => ({ cutouts: cutouts.filter((c) => c.id !== gone) })))
  workshop.cutoutId = null
}

function save(change: (cut: CutOut) => Partial<CutOut>): Promise<Refusal | null> {
  return props.putCut(workshop.cutoutId ?? '', change)
}

function now(change: Partial<CutOut>): void {
  void workshop.told(save(() => change))
}

function repeat(change: Partial<CutOut['repeat']>): Promise<Refusal | null> {
  return save((one) => ({ repeat: { ...one.repeat, ...change } }))
}

function saveHole(change: Record<string, unknown>): Promise<Refusal | null> {
  return save((one) => ({ hole: { ...one.hole, ...change } as Hole }))
}

function holeSize(field: string): Size {
  return (cut.value?.hole as unknown as Record<string, Size>)[field] ?? { text: '0', unit: 'mm' }
}

function value(field: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/cutouts/${workshop.cutoutId}/${field}`]
}

/** Points of a curve in mm, from the lower left corner of its box. */
const knots = computed(() => curve.value?.knots.map((k) => ({ x: k.x * (value('width') ?? 1), y: k.y * (value('height') ?? 1), corner: k.corner })) ?? [])

function saveKnots(moved: { x: number; y: number; corner: boolean }[]): Promise<Refusal | null> {
  const width = value('width') ?? 1
  const height = value('height') ?? 1
  const shares: Schemas['Knot'][] = moved.map((k) => ({ x: k.x / width, y: k.y / height, corner: k.corner }))
  return saveHole({ knots: shares })
}
</script>

<template>
  <h3>Cut-outs</h3>
  <p class="in-line">
    <button v-for="(name, kind) in HOLES" :key="kind" type="button" class="plain-button" @click="add((one) => newCutOut(kind, one, workshop.unit))">+ {{ name }}</button>
  </p>
  <ul v-if="part.cutouts.length" class="cuts">
    <li v-for="(one, index) in part.cutouts" :key="one.id">
      <button type="button" class="plain-button" :aria-pressed="one.id === workshop.cutoutId" @click="workshop.cutoutId = one.id">
        {{ index + 1 }}. {{ one.hole.kind === 'text' ? `“${one.hole.text}”` : HOLES[one.hole.kind].toLowerCase() }}<template v-if="one.repeat.columns * one.repeat.rows > 1"> × {{ one.repeat.columns * one.repeat.rows }}</template>
      </button>
    </li>
  </ul>
  <div v-if="cut" :key="cut.id" class="stack chosen-cut">
    <ChoiceField label="This shape" :value="cut.does" :options="DOES" :names="DOING" :save="(does) => now({ does })" />
    <SizeField v-if="cut.does === 'pocket'" label="Depth of the pocket" :size="cut.depth" :value="value('depth')" :save="(depth) => save(() => ({ depth }))" />
    <template v-if="lettering">
      <PlainField label="Text" :value="lettering.text" :save="(words) => void workshop.told(saveHole({ text: words.slice(0, 60) }))" />
      <ChoiceField label="Font" :value="lettering.font" :options="['stencil', 'plain']" :save="(font) => void workshop.told(saveHole({ font }))" />
    </template>
    <SizeField v-for="(name, field) in SIZES[cut.hole.kind]" :key="`${cut.hole.kind}${field}`" :label="name" :size="holeSize(field)" :value="value(field)" :save="(size) => saveHole({ [field]: size })" />
    <template v-if="lettering">
      <LetterFields :letters="lettering" :value="value" :save="saveHole" />
      <SizeField v-if="lettering.font === 'plain'" label="Bridges to islands" :size="lettering.bridges" :value="value('bridges')" :save="(bridges) => saveHole({ bridges })" />
    </template>
    <KnotFields v-if="curve" :knots="knots" :save="saveKnots" />
    <div class="row-field">
      <label for="cut-origin">Placed from</label>
      <select id="cut-origin" class="text-input" :value="cut.origin" @change="now({ origin: text($event) as CutOut['origin'] })">
        <option v-for="origin in ORIGINS" :key="origin">{{ origin }}</option>
      </select>
    </div>
    <SizeField label="Across" :size="cut.x" :value="value('x')" :save="(x) => save(() => ({ x }))" />
    <SizeField label="Up or down" :size="cut.y" :value="value('y')" :save="(y) => save(() => ({ y }))" />
    <SizeField label="Turned by (degrees)" :size="cut.turn" bare :save="(turn) => save(() => ({ turn }))" />
    <label class="tick"><input type="checkbox" :checked="cut.mirrored" @change="now({ mirrored: !cut.mirrored })" /> Mirrored</label>
    <PlainField label="In a row" :value="cut.repeat.columns" :most="60" :save="(columns) => void workshop.told(repeat({ columns: Number(columns) }))" />
    <SizeField v-if="cut.repeat.columns > 1" label="Step across" :size="cut.repeat.step_x" :value="value('repeat/step_x')" :save="(size) => repeat({ step_x: size })" />
    <PlainField label="Rows" :value="cut.repeat.rows" :most="60" :save="(rows) => void workshop.told(repeat({ rows: Number(rows) }))" />
    <SizeField v-if="cut.repeat.rows > 1" label="Step up" :size="cut.repeat.step_y" :value="value('repeat/step_y')" :save="(size) => repeat({ step_y: size })" />
    <p class="in-line">
      <button type="button" class="plain-button" @click="duplicate">Duplicate cut-out</button>
      <button type="button" class="plain-button" @click="remove">Remove cut-out</button>
    </p>
  </div>
</template>

<style scoped>
.cuts { list-style: none; margin: 6px 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 12px; }
.cuts [aria-pressed='true'] { color: var(--ink); font-weight: 650; text-decoration: none; }
.chosen-cut { border-left: 2px solid var(--accent); padding-left: 8px; margin-top: 6px; }
.tick { font-size: 12.5px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, Part, Schemas, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { freeId } from '../state/fresh'
import { HOLES } from './holes'
import KnotFields from './KnotFields.vue'
import LetterFields from './LetterFields.vue'
import ActButton from '../kit/ActButton.vue'
import TickField from '../kit/TickField.vue'

/** The shapes on a part: cut out, added, kept or sunk; and what is set of the chosen one. */
const props = defineProps<{
  /** Whether one is chosen, and comes first with what is set of it. */
  chosen?: boolean
  part: Part
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
  putCut: (id: string, change: (cut: CutOut) => Partial<CutOut>) => Promise<Refusal | null>
}>()

type Hole = CutOut['hole']
const ORIGINS: CutOut['origin'][] = ['bottom left', 'bottom right', 'top left', 'top right', 'middle']
const DOES: CutOut['does'][] = ['cut out', 'pocket', 'score', 'engrave', 'fill', 'add', 'keep', 'reference']
const DOING: Record<CutOut['does'], string> = { 'cut out': 'is cut out', pocket: 'is sunk as a pocket', score: 'is scored along its edge', engrave: 'is engraved along its edge', fill: 'is engraved all over', add: 'is added to the part', keep: 'is all that is kept', reference: 'is drawn, and never cut' }
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const cut = computed(() => picked.cutout)
const lettering = computed(() => (cut.value?.hole.kind === 'text' ? cut.value.hole : null))
const curve = computed(() => (cut.value?.hole.kind === 'curve' ? cut.value.hole : null))

/** Adds a cut-out of a kind and chooses it. */
async function add(kind: Hole['kind']): Promise<void> {
  const id = freeId('cut', props.part.cutouts)
  if (await edits.change({ do: 'begin cut-out', part: props.part.id, id, kind })) picked.pick({ cutoutId: id })
}

async function duplicate(): Promise<void> {
  const copied = cut.value
  if (!copied) return
  const id = freeId('cut', props.part.cutouts)
  if (await edits.told(props.putPart(({ cutouts }) => ({ cutouts: [...cutouts, { ...copied, id }] })))) picked.pick({ cutoutId: id })
}

function remove(): void {
  const gone = picked.cutoutId
  void edits.told(props.putPart(({ cutouts }) => ({ cutouts: cutouts.filter((c) => c.id !== gone) })))
  picked.pick({ cutoutId: null })
}

function save(change: (cut: CutOut) => Partial<CutOut>): Promise<Refusal | null> {
  return props.putCut(picked.cutoutId ?? '', change)
}

function now(change: Partial<CutOut>): void {
  void edits.told(save(() => change))
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
  return workshop.shown?.values[`parts/${props.part.id}/cutouts/${picked.cutoutId}/${field}`]
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
  <h2 v-if="chosen">Cut-out of {{ part.name }}</h2>
  <h3 v-else>Cut-outs</h3>
  <p class="in-line">
    <ActButton v-for="(hole, kind) in HOLES" :key="kind" @click="add(kind)">+ {{ hole.name }}</ActButton>
  </p>
  <ul v-if="part.cutouts.length" class="cuts">
    <li v-for="(one, index) in part.cutouts" :key="one.id">
      <ActButton :pressed="one.id === picked.cutoutId" @click="picked.pick({ cutoutId: one.id })">
        {{ index + 1 }}. {{ one.hole.kind === 'text' ? `“${one.hole.text}”` : HOLES[one.hole.kind].name.toLowerCase() }}<template v-if="one.repeat.columns * one.repeat.rows > 1"> × {{ one.repeat.columns * one.repeat.rows }}</template>
      </ActButton>
    </li>
  </ul>
  <div v-if="cut" :key="cut.id" class="stack chosen-cut">
    <ChoiceField label="This shape" :value="cut.does" :options="DOES" :names="DOING" :save="(does) => now({ does })" />
    <SizeField v-if="cut.does === 'pocket'" label="Depth of the pocket" :size="cut.depth" :value="value('depth')" :save="(depth) => save(() => ({ depth }))" />
    <template v-if="lettering">
      <PlainField label="Text" :value="lettering.text" :save="(words) => void edits.told(saveHole({ text: words.slice(0, 60) }))" />
      <ChoiceField label="Font" :value="lettering.font" :options="['stencil', 'plain']" :save="(font) => void edits.told(saveHole({ font }))" />
    </template>
    <SizeField v-for="(name, field) in HOLES[cut.hole.kind].sizes" :key="`${cut.hole.kind}${field}`" :label="name" :size="holeSize(field)" :value="value(field)" :save="(size) => saveHole({ [field]: size })" />
    <template v-if="lettering">
      <LetterFields :letters="lettering" :value="value" :save="saveHole" />
      <SizeField v-if="lettering.font === 'plain'" label="Bridges to islands" :size="lettering.bridges" :value="value('bridges')" :save="(bridges) => saveHole({ bridges })" />
    </template>
    <KnotFields v-if="curve" :knots="knots" :save="saveKnots" />
    <ChoiceField label="Placed from" :value="cut.origin" :options="ORIGINS" :save="(origin) => now({ origin })" />
    <SizeField label="Across" :size="cut.x" :value="value('x')" :save="(x) => save(() => ({ x }))" />
    <SizeField label="Up or down" :size="cut.y" :value="value('y')" :save="(y) => save(() => ({ y }))" />
    <SizeField label="Turned by (degrees)" :size="cut.turn" bare :save="(turn) => save(() => ({ turn }))" />
    <TickField :value="cut.mirrored" :save="(mirrored) => now({ mirrored })">Mirrored</TickField>
    <PlainField label="In a row" :value="cut.repeat.columns" :most="60" :save="(columns) => void edits.told(repeat({ columns: Number(columns) }))" />
    <SizeField v-if="cut.repeat.columns > 1" label="Step across" :size="cut.repeat.step_x" :value="value('repeat/step_x')" :save="(size) => repeat({ step_x: size })" />
    <PlainField label="Rows" :value="cut.repeat.rows" :most="60" :save="(rows) => void edits.told(repeat({ rows: Number(rows) }))" />
    <SizeField v-if="cut.repeat.rows > 1" label="Step up" :size="cut.repeat.step_y" :value="value('repeat/step_y')" :save="(size) => repeat({ step_y: size })" />
    <p class="in-line">
      <ActButton @click="duplicate">Duplicate cut-out</ActButton>
      <ActButton @click="remove">Remove cut-out</ActButton>
    </p>
  </div>
</template>

<style scoped>
.cuts { list-style: none; margin: 6px 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 12px; }
.cuts [aria-pressed='true'] { color: var(--ink); font-weight: 650; text-decoration: none; }
.chosen-cut { border-left: 2px solid var(--accent); padding-left: 8px; margin: 6px 0 14px; }
</style>

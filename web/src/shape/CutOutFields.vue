<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, Part, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { MORE } from './fields/more'
import ActButton from '../kit/ActButton.vue'
import { HOLES } from './holes'
import { useMode } from './mode'
import PlaceFields from './PlaceFields.vue'
import RepeatFields from './RepeatFields.vue'

/** What is set of the one chosen shape on a part. */
const props = defineProps<{
  cut: CutOut
  part: Part
  putCut: (id: string, change: (cut: CutOut) => Partial<CutOut>) => Promise<Refusal | null>
}>()

type Hole = CutOut['hole']
const DOES: CutOut['does'][] = ['cut out', 'pocket', 'score', 'engrave', 'fill', 'add', 'keep', 'reference']
const DOING: Record<CutOut['does'], string> = { 'cut out': 'is cut out', pocket: 'is sunk as a pocket', score: 'is scored along its edge', engrave: 'is engraved along its edge', fill: 'is engraved all over', add: 'is added to the part', keep: 'is all that is kept', reference: 'is drawn, and never cut' }
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const mode = useMode()
const kind = computed(() => HOLES[props.cut.hole.kind])
const shown = computed(() => picked.partShown?.cutouts.find((c) => c.id === props.cut.id))
const others = computed(() => picked.partShown?.cutouts.filter((c) => c.id !== props.cut.id) ?? [])

/** Whether it is turned, repeated or named: then that is seen at once. */
const isMore = computed(() => props.cut.turn.text.trim() !== '0' || props.cut.mirrored || props.cut.twin !== 'none' || (shown.value?.spots.length ?? 0) > 1 || props.cut.name !== '')

function save(change: (cut: CutOut) => Partial<CutOut>): Promise<Refusal | null> {
  return props.putCut(props.cut.id, change)
}

function now(change: Partial<CutOut>): void {
  void edits.told(save(() => change))
}

function saveHole(change: object): Promise<Refusal | null> {
  return save((one) => ({ hole: { ...one.hole, ...change } as Hole }))
}

function holeSize(field: string): Size {
  return (props.cut.hole as unknown as Record<string, Size>)[field] ?? { text: '0', unit: 'mm' }
}

function value(field: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/cutouts/${props.cut.id}/${field}`]
}
</script>

<template>
  <h2>{{ shown?.called ?? kind.name }}, of {{ part.name }}</h2>
  <div class="stack chosen-cut">
    <ChoiceField label="This shape" :value="cut.does" :options="DOES" :names="DOING" :save="(does) => now({ does })" />
    <SizeField v-if="cut.does === 'pocket'" label="Depth of the pocket" :size="cut.depth" :value="value('depth')" :save="(depth) => save(() => ({ depth }))" />
    <SizeField v-for="(name, field) in kind.sizes" :key="`${cut.hole.kind}${field}`" :label="name" :size="holeSize(field)" :value="value(field)" :bare="kind.angles?.includes(field)" :save="(size) => saveHole({ [field]: size })" />
    <component :is="MORE[cut.hole.kind]" v-if="MORE[cut.hole.kind]" :hole="cut.hole" :value="value" :save="saveHole" />
    <p v-if="cut.hole.kind === 'points' || cut.hole.kind === 'curve'" class="in-line">
      <ActButton :pressed="mode.mode === 'redraw a piece'" @click="mode.be('redraw a piece')">Redraw a piece</ActButton>
      <ActButton :pressed="mode.mode === 'make straight'" @click="mode.be('make straight')">Straight from here to here</ActButton>
    </p>
    <PlaceFields :cut="cut" :part="part.id" :others="others" :value="value" :save="(change) => save(() => change)" />
    <FoldSection title="Turned, repeated, called" name="turned" :folded="!isMore">
      <SizeField label="Turned by (degrees)" :size="cut.turn" bare :save="(turn) => save(() => ({ turn }))" />
      <TickField :value="cut.mirrored" :save="(mirrored) => now({ mirrored })">Mirrored</TickField>
      <RepeatFields :cut="cut" :value="value" :save="(change) => save(() => change)" />
      <PlainField label="Called" :value="cut.name" :blank="shown?.called ?? ''" :save="(name) => now({ name: name.slice(0, 60) })" />
    </FoldSection>
    <TickField v-if="cut.does === 'reference'" :value="cut.hidden" :save="(hidden) => now({ hidden })">Hidden</TickField>
  </div>
</template>

<style scoped>
.chosen-cut { border-left: 2px solid var(--accent); padding-left: 8px; margin: 6px 0 14px; }
</style>

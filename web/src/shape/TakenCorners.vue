<script setup lang="ts">
import type { Part, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { useMode } from './mode'

/** Corners of the outline that are taken off, wherever shapes meet; they are chosen on the drawing. */
const props = defineProps<{ part: Part; putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null> }>()
const edits = useEdits()
const workshop = useWorkshop()
const mode = useMode()
type Taken = Part['corners'][number]

function put(index: number, change: Partial<Taken>): Promise<Refusal | null> {
  return props.putPart(({ corners }) => ({ corners: corners.map((one, i) => (i === index ? { ...one, ...change } : one)) }))
}

function all(size: Size): Promise<Refusal | null> {
  return props.putPart(({ corners }) => ({ corners: corners.map((one) => ({ ...one, size })) }))
}

function letGo(index: number): void {
  void edits.told(props.putPart(({ corners }) => ({ corners: corners.filter((_, i) => i !== index) })))
}

function value(path: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/corners/${path}`]
}

function side({ shape, side: name }: Taken['before']): string {
  return shape ? `${shape.split('/')[0]} ${name}` : name
}
</script>

<template>
  <p class="in-line">
    <ActButton :pressed="mode.mode === 'take corners'" @click="mode.be('take corners')">{{ mode.mode === 'take corners' ? 'Done with corners' : 'Choose corners on the drawing' }}</ActButton>
  </p>
  <SizeField v-if="part.corners.length > 1" label="All of these" :size="part.corners[0]!.size" :value="value('0/size')" :save="all" />
  <div v-for="(corner, index) in part.corners" :key="index" class="taken">
    <p class="cut-off" :title="`${side(corner.before)} to ${side(corner.after)}`">{{ index + 1 }}. {{ side(corner.before) }} to {{ side(corner.after) }} <ActButton :aria-label="`Let corner ${index + 1} go`" @click="letGo(index)">✕</ActButton></p>
    <ChoiceField label="taken off by a" :value="corner.kind" :options="['round', 'chamfer']" :save="(kind) => void edits.told(put(index, { kind }))" />
    <SizeField :label="`Size of corner ${index + 1}`" :size="corner.size" :value="value(`${index}/size`)" :save="(size) => put(index, { size })" />
  </div>
</template>

<style scoped>
.taken { border-left: 2px solid var(--rule); padding-left: 6px; margin: 4px 0; }
</style>

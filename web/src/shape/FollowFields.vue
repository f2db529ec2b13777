<script setup lang="ts">
import { computed } from 'vue'

import type { Part, Schemas, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** Slots and tabs of a brought outline that follow the sheet: those that are sized alike are changed together. */
const props = defineProps<{ part: Part; putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()
const edits = useEdits()

type Place = Schemas['Following']
const places = computed(() => (props.part.shape.kind === 'brought' ? (props.part.shape.follows ?? []) : []))

const alike = (a: Place, b: Place): boolean => a.kind === b.kind && a.size.text === b.size.text && a.size.unit === b.size.unit && a.stays === b.stays

const groups = computed(() => {
  const found: { first: Place; at: number; count: number }[] = []
  places.value.forEach((place, at) => {
    const known = found.find((group) => alike(group.first, place))
    if (known) known.count++
    else found.push({ first: place, at, count: 1 })
  })
  return found
})

function put(group: Place, change: Partial<Place>): Promise<Refusal | null> {
  return props.putPart(({ shape }) => {
    if (shape.kind !== 'brought') return {}
    return { shape: { ...shape, follows: (shape.follows ?? []).map((place) => (alike(place, group) ? { ...place, ...change } : place)) } }
  })
}

function label(group: { first: Place; count: number }): string {
  if (group.first.kind === 'tab') return group.count === 1 ? 'A tab reaches out by' : `${group.count} tabs reach out by`
  return group.count === 1 ? 'A slot is wide' : `${group.count} slots are wide`
}

function value(at: number): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/follows/${at}/size`]
}

const STAYS = { middle: 'its middle line', first: 'its first flank', second: 'its other flank' }
</script>

<template>
  <template v-for="group in groups" :key="`${part.id}${group.at}`">
    <SizeField :label="label(group)" :size="group.first.size" :value="value(group.at)" :save="(size: Size) => put(group.first, { size })" />
    <ChoiceField v-if="group.first.kind === 'slot'" label="What of it stays" :value="group.first.stays ?? 'middle'" :options="['middle', 'first', 'second']" :names="STAYS" :save="(stays) => void edits.told(put(group.first, { stays }))" />
  </template>
</template>

<script setup lang="ts">
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useJoint } from '../edit'
import SideField from './SideField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'

const { joint, put, now, nowEnd, value, name } = useJoint('finger')

function setCount(text: string): void {
  const count = Math.round(Number(text))
  now({ count: count >= 3 ? Math.min(301, count) : null })
}
</script>

<template>
  <template v-if="joint">
    <SideField v-for="which in ['a', 'b'] as const" :key="which" :label="name(joint[which].part)" :side="joint[which].side" :save="(side) => nowEnd(which, { side })" />
    <SizeField label="Finger width, about" :size="joint.finger" :value="value('finger')" :save="(finger) => put({ finger })" />
    <ChoiceField label="Starts with a finger" :value="joint.starts" :options="['a', 'b']" :names="{ a: name(joint.a.part), b: name(joint.b.part) }" :save="(starts) => now({ starts })" />
    <PlainField label="or this many fingers" :value="joint.count ?? 'by width'" :save="setCount" />
    <ChoiceField label="Edges are drawn at the" :value="joint.reference" :options="['outside', 'inside']" :names="{ outside: 'outside face', inside: 'inside face' }" :save="(reference) => now({ reference })" />
    <SizeField label="Inset at the start" :size="joint.inset_start" :value="value('inset_start')" :save="(size) => put({ inset_start: size })" />
    <SizeField label="Inset at the end" :size="joint.inset_end" :value="value('inset_end')" :save="(size) => put({ inset_end: size })" />
    <SizeField label="Shorter edge begins at" :size="joint.shift" :value="value('shift')" :save="(shift) => put({ shift })" />
    <SizeField label="Stand proud by" :size="joint.proud" :value="value('proud')" :save="(proud) => put({ proud })" />
  </template>
</template>

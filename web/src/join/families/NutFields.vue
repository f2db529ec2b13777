<script setup lang="ts">
import type { CaptiveNut } from '../../api/client'
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useJoint } from '../edit'
import LineFields from './LineFields.vue'
import SideField from './SideField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'

const THREADS: CaptiveNut['thread'][] = ['M2', 'M2.5', 'M3', 'M4', 'M5', 'M6', 'M8']
const { joint, put, now, nowEnd, value, name } = useJoint('captive-nut')
</script>

<template>
  <template v-if="joint">
    <SideField :label="`Nuts in ${name(joint.a.part)}`" :side="joint.a.side" :save="(side) => nowEnd('a', { side })" />
    <ChoiceField label="Thread" :value="joint.thread" :options="THREADS" :save="(thread) => now({ thread })" />
    <SizeField label="Screw length" :size="joint.screw" :value="value('screw')" :save="(screw) => put({ screw })" />
    <PlainField label="How many screws" :value="joint.screws" :most="60" :save="(count) => now({ screws: Number(count) })" />
    <SizeField v-if="joint.screws > 1" label="Inset of the outer screws" :size="joint.inset" :value="value('inset')" :save="(inset) => put({ inset })" />
    <LineFields :line="joint.b" />
  </template>
</template>

<script setup lang="ts">
import type { CaptiveNut } from '../api/client'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { chosen, useJoint } from './edit'
import LineFields from './LineFields.vue'
import SideField from './SideField.vue'

const THREADS: CaptiveNut['thread'][] = ['M2', 'M2.5', 'M3', 'M4', 'M5', 'M6', 'M8']
const { joint, put, now, nowEnd, value, name } = useJoint('captive-nut')
</script>

<template>
  <template v-if="joint">
    <SideField :label="`Nuts in ${name(joint.a.part)}`" :side="joint.a.side" :save="(side) => nowEnd('a', { side })" />
    <div class="row-field">
      <label for="thread">Thread</label>
      <select id="thread" class="text-input" :value="joint.thread" @change="now({ thread: chosen($event) as CaptiveNut['thread'] })"><option v-for="thread in THREADS" :key="thread">{{ thread }}</option></select>
    </div>
    <SizeField label="Screw length" :size="joint.screw" :value="value('screw')" :save="(screw) => put({ screw })" />
    <PlainField label="How many screws" :value="joint.screws" :most="60" :save="(count) => now({ screws: Number(count) })" />
    <SizeField v-if="joint.screws > 1" label="Inset of the outer screws" :size="joint.inset" :value="value('inset')" :save="(inset) => put({ inset })" />
    <LineFields :line="joint.b" />
  </template>
</template>

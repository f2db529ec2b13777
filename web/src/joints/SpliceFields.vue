<script setup lang="ts">
import type { Splice } from '../api/client'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { chosen, useJoint } from './edit'
import SideField from './SideField.vue'

const { joint, put, now, nowEnd, value, name } = useJoint('splice')
</script>

<template>
  <template v-if="joint">
    <SideField v-for="which in ['a', 'b'] as const" :key="which" :label="`${which === 'a' ? 'Keys' : 'Sockets'} on ${name(joint[which].part)}`" :side="joint[which].side" :save="(side) => nowEnd(which, { side })" />
    <div class="row-field">
      <label for="splice-shape">Shape</label>
      <select id="splice-shape" class="text-input" :value="joint.shape" @change="now({ shape: chosen($event) as Splice['shape'] })"><option>dovetail</option><option>round knob</option><option>straight</option></select>
    </div>
    <PlainField label="How many keys" :value="joint.keys" :most="60" :save="(count) => now({ keys: Number(count) })" />
    <SizeField label="Size of a key" :size="joint.size" :value="value('size')" :save="(size) => put({ size })" />
    <SizeField label="Depth" :size="joint.depth" :value="value('depth')" :save="(depth) => put({ depth })" />
    <SizeField v-if="joint.shape !== 'round knob'" label="Corner radius" :size="joint.radius" :value="value('radius')" :save="(radius) => put({ radius })" />
    <div class="row-field">
      <label for="splice-gap">Gap</label>
      <select id="splice-gap" class="text-input" :value="joint.gap" @change="now({ gap: chosen($event) as Splice['gap'] })"><option>split</option><option>in the sockets</option></select>
    </div>
  </template>
</template>

<script setup lang="ts">
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useJoint } from '../edit'
import SideField from './SideField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'

const { joint, put, now, nowEnd, value, name } = useJoint('splice')
</script>

<template>
  <template v-if="joint">
    <SideField v-for="which in ['a', 'b'] as const" :key="which" :label="`${which === 'a' ? 'Keys' : 'Sockets'} on ${name(joint[which].part)}`" :side="joint[which].side" :save="(side) => nowEnd(which, { side })" />
    <ChoiceField label="Shape" :value="joint.shape" :options="['dovetail', 'round knob', 'straight']" :save="(shape) => now({ shape })" />
    <PlainField label="How many keys" :value="joint.keys" :most="60" :save="(count) => now({ keys: Number(count) })" />
    <SizeField label="Size of a key" :size="joint.size" :value="value('size')" :save="(size) => put({ size })" />
    <SizeField label="Depth" :size="joint.depth" :value="value('depth')" :save="(depth) => put({ depth })" />
    <SizeField v-if="joint.shape !== 'round knob'" label="Corner radius" :size="joint.radius" :value="value('radius')" :save="(radius) => put({ radius })" />
    <ChoiceField label="Gap" :value="joint.gap" :options="['split', 'in the sockets']" :save="(gap) => now({ gap })" />
  </template>
</template>

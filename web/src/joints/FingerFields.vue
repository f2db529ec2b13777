<script setup lang="ts">
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { chosen, useJoint } from './edit'
import SideField from './SideField.vue'

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
    <div class="row-field">
      <label for="starts">Starts with a finger</label>
      <select id="starts" class="text-input" :value="joint.starts" @change="now({ starts: chosen($event) as 'a' | 'b' })">
        <option value="a">{{ name(joint.a.part) }}</option>
        <option value="b">{{ name(joint.b.part) }}</option>
      </select>
    </div>
    <PlainField label="or this many fingers" :value="joint.count ?? 'by width'" :save="setCount" />
    <div class="row-field">
      <label for="reference">Edges are drawn at the</label>
      <select id="reference" class="text-input" :value="joint.reference" @change="now({ reference: chosen($event) as 'outside' | 'inside' })">
        <option value="outside">outside face</option>
        <option value="inside">inside face</option>
      </select>
    </div>
    <SizeField label="Inset at the start" :size="joint.inset_start" :value="value('inset_start')" :save="(size) => put({ inset_start: size })" />
    <SizeField label="Inset at the end" :size="joint.inset_end" :value="value('inset_end')" :save="(size) => put({ inset_end: size })" />
    <SizeField label="Shorter edge begins at" :size="joint.shift" :value="value('shift')" :save="(shift) => put({ shift })" />
    <SizeField label="Stand proud by" :size="joint.proud" :value="value('proud')" :save="(proud) => put({ proud })" />
  </template>
</template>

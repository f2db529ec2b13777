<script setup lang="ts">
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { chosen, useJoint } from './edit'
import LineFields from './LineFields.vue'
import SideField from './SideField.vue'

const { joint, put, now, nowEnd, value, name } = useJoint('tab-and-slot')

function setBlind(way: string): void {
  now({ pocket: way === 'blind' ? { text: 'thickness/2', unit: 'mm' } : null })
}
</script>

<template>
  <template v-if="joint">
    <SideField :label="`Tabs on ${name(joint.a.part)}`" :side="joint.a.side" :save="(side) => nowEnd('a', { side })" />
    <PlainField label="How many tabs" :value="joint.tabs" :most="60" :save="(count) => now({ tabs: Number(count) })" />
    <SizeField label="Tab width" :size="joint.width" :value="value('width')" :save="(width) => put({ width })" />
    <SizeField label="Inset of the outer tabs" :size="joint.inset" :value="value('inset')" :save="(inset) => put({ inset })" />
    <div class="row-field">
      <label for="blind">Tabs go</label>
      <select id="blind" class="text-input" :value="joint.pocket ? 'blind' : 'through'" @change="setBlind(chosen($event))">
        <option value="through">through the part</option>
        <option value="blind">into blind pockets</option>
      </select>
    </div>
    <SizeField v-if="joint.pocket" label="Pocket depth" :size="joint.pocket" :value="value('pocket')" :save="(pocket) => put({ pocket })" />
    <SizeField v-else label="Stand proud by" :size="joint.proud" :value="value('proud')" :save="(proud) => put({ proud })" />
    <LineFields :line="joint.b" />
  </template>
</template>

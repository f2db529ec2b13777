<script setup lang="ts">
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useJoint } from '../edit'
import LineFields from './LineFields.vue'
import SideField from './SideField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'

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
    <ChoiceField label="Tabs go" :value="joint.pocket ? 'blind' : 'through'" :options="['through', 'blind']" :names="{ through: 'through the part', blind: 'into blind pockets' }" :save="setBlind" />
    <SizeField v-if="joint.pocket" label="Pocket depth" :size="joint.pocket" :value="value('pocket')" :save="(pocket) => put({ pocket })" />
    <SizeField v-else label="Stand proud by" :size="joint.proud" :value="value('proud')" :save="(proud) => put({ proud })" />
    <LineFields :line="joint.b" />
  </template>
</template>

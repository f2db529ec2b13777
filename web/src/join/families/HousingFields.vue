<script setup lang="ts">
import SizeField from '../../kit/SizeField.vue'
import { useJoint } from '../edit'
import LineFields from './LineFields.vue'
import SideField from './SideField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'

const { joint, put, now, nowEnd, value, name } = useJoint('housing')

function setGroove(way: string): void {
  now({ groove: way === 'let in' ? { text: 'thickness/3', unit: 'mm' } : null, room: { text: '0', unit: 'mm' } })
}
</script>

<template>
  <template v-if="joint">
    <SideField :label="`Edge of ${name(joint.a.part)}`" :side="joint.a.side" :save="(side) => nowEnd('a', { side })" />
    <ChoiceField label="It is" :value="joint.groove ? 'let in' : 'butted'" :options="['butted', 'let in']" :names="{ butted: 'butted on the face', 'let in': 'let into a groove' }" :save="setGroove" />
    <SizeField v-if="joint.groove" label="Groove depth" :size="joint.groove" :value="value('groove')" :save="(groove) => put({ groove })" />
    <SizeField v-if="joint.groove" label="Room to slide, 0 for none" :size="joint.room" :value="value('room')" :save="(room) => put({ room })" />
    <LineFields :line="joint.b" />
  </template>
</template>

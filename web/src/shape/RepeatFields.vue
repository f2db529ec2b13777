<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, Repeat } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'

/** How often a shape stands on the part, and where: in rows, round a point, along the edge, and mirrored. */
const props = defineProps<{
  cut: CutOut
  value: (field: string) => number | undefined
  save: (change: Partial<CutOut>) => Promise<Refusal | null>
}>()
const edits = useEdits()

const KINDS: Repeat['kind'][] = ['grid', 'round a point', 'along the edge']
const TWINS: CutOut['twin'][] = ['none', 'left and right', 'up and down', 'both']
const repeat = computed(() => props.cut.repeat)

function put(change: Partial<Repeat>): Promise<Refusal | null> {
  return props.save({ repeat: { ...repeat.value, ...change } as Repeat })
}

function now(change: Partial<Repeat>): void {
  void edits.told(put(change))
}

/** Where there are more or fewer places, those left out would be others. */
function many(change: Partial<Repeat>): void {
  void edits.told(props.save({ repeat: { ...repeat.value, ...change } as Repeat, left_out: [] }))
}

/** Another kind of repeat begins as that kind does. */
function as(kind: Repeat['kind']): void {
  if (kind !== repeat.value.kind) void edits.told(props.save({ repeat: { kind } as Repeat, left_out: [] }))
}
</script>

<template>
  <ChoiceField label="Repeated" :value="repeat.kind" :options="KINDS" :names="{ grid: 'in rows' }" :save="as" />
  <template v-if="repeat.kind === 'grid'">
    <PlainField label="In a row" :value="repeat.columns" :most="60" :save="(columns) => many({ columns: Number(columns) })" />
    <SizeField v-if="repeat.columns > 1" label="Step across" :size="repeat.step_x" :value="value('repeat/step_x')" :save="(step_x) => put({ step_x })" />
    <PlainField label="Rows" :value="repeat.rows" :most="60" :save="(rows) => many({ rows: Number(rows) })" />
    <SizeField v-if="repeat.rows > 1" label="Step up" :size="repeat.step_y" :value="value('repeat/step_y')" :save="(step_y) => put({ step_y })" />
  </template>
  <template v-else>
    <PlainField label="How many of it" :value="repeat.count" :most="360" :save="(count) => many({ count: Number(count) })" />
    <template v-if="repeat.kind === 'round a point'">
      <SizeField label="Angle step (0: all round)" :size="repeat.step" bare :save="(step) => put({ step })" />
      <SizeField label="Point across, from middle" :size="repeat.x" :value="value('repeat/x')" :save="(x) => put({ x })" />
      <SizeField label="Point up, from middle" :size="repeat.y" :value="value('repeat/y')" :save="(y) => put({ y })" />
    </template>
    <template v-else>
      <SizeField label="Step (0: all along)" :size="repeat.step" :value="value('repeat/step')" :save="(step) => put({ step })" />
      <TickField :value="repeat.backwards" :save="(backwards) => now({ backwards })">Clockwise</TickField>
    </template>
    <TickField :value="repeat.turned" :save="(turned) => now({ turned })">Turned as they go</TickField>
  </template>
  <ChoiceField label="Twin in the mirror" :value="cut.twin" :options="TWINS" :save="(twin) => void edits.told(save({ twin, left_out: [] }))" />
</template>

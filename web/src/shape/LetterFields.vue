<script setup lang="ts">
import type { Schemas, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'

/** How letters are set, of a text that is cut out or marked. */
defineProps<{
  letters: { align: Schemas['TextHole']['align']; tracking: Size; bend: Size }
  value: (field: string) => number | undefined
  save: (change: { align?: Schemas['TextHole']['align']; tracking?: Size; bend?: Size }) => Promise<Refusal | null>
}>()
</script>

<template>
  <SizeField label="Tracking" :size="letters.tracking" :value="value('tracking')" :save="(tracking) => save({ tracking })" />
  <ChoiceField label="Place is its" :value="letters.align" :options="['left', 'middle', 'right']" :names="{ left: 'left end', right: 'right end' }" :save="(align) => void save({ align })" />
  <SizeField label="Bent to a radius of" :size="letters.bend" :value="value('bend')" :save="(bend) => save({ bend })" />
</template>

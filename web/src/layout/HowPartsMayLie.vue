<script setup lang="ts">
import type { Part } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import TickField from '../kit/TickField.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The turns that each part may take, whether it may be turned over, and what it should lie on one sheet with. */
const workshop = useWorkshop()
const edits = useEdits()

const TURNS: Part['turns'][] = ['grain', '180', '90', '45', 'any']
const TURNING: Record<Part['turns'], string> = { grain: 'grain kept', 180: 'by 180', 90: 'by 90', 45: 'by 45', any: 'any' }

function change(part: Part, to: Partial<Part>): void {
  void edits.told(edits.editPart(part.id, () => to))
}
</script>

<template>
  <div v-for="part in workshop.document?.parts" :key="part.id" class="stack part" role="group" :aria-label="part.name">
    <ChoiceField :label="part.name" :value="part.turns" :options="TURNS" :names="TURNING" :save="(turns) => change(part, { turns })" />
    <PlainField label="On one sheet with" :value="part.group" blank="any parts" :save="(group) => change(part, { group })" />
    <TickField :value="part.both_faces" :save="(both_faces) => change(part, { both_faces })">Good on both faces</TickField>
  </div>
</template>

<style scoped>
.part { padding: 4px 0 8px; border-bottom: 1px solid var(--faint-rule); }
</style>

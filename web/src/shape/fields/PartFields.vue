<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import ChoiceField from '../../kit/ChoiceField.vue'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import { useWorkshop } from '../../state/workshop'
import type { ShapeProps } from './more'

/** The part whose outline the shape has. */
const props = defineProps<ShapeProps<Schemas['PartOutline']>>()
const edits = useEdits()
const workshop = useWorkshop()
const picked = useChoice()
const parts = computed(() => workshop.document?.parts.filter((p) => p.id !== picked.partId) ?? [])
</script>

<template>
  <ChoiceField label="Outline of" :value="hole.part" :options="parts.map((p) => p.id)" :names="Object.fromEntries(parts.map((p) => [p.id, p.name]))" :save="(part) => void edits.told(props.save({ part }))" />
</template>

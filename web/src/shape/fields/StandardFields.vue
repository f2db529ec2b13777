<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import ChoiceField from '../../kit/ChoiceField.vue'
import { useEdits } from '../../state/edits'
import { useStandards } from '../standards'
import type { ShapeProps } from './more'

/** Which standard thing it is, and where its sizes are published. */
const props = defineProps<ShapeProps<Schemas['Standard']>>()
const edits = useEdits()
const standards = useStandards()
const found = computed(() => standards.value.find((s) => s.name === props.hole.thing))
</script>

<template>
  <ChoiceField label="It is" :value="hole.thing" :options="standards.map((s) => s.name)" :save="(thing) => void edits.told(props.save({ thing }))" />
  <p v-if="found" class="source">{{ found.says }} mm. {{ found.source }}.</p>
</template>

<style scoped>
.source { color: var(--soft-ink); font-size: 12px; }
</style>

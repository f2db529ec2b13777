<script setup lang="ts">
import type { Schemas } from '../../api/client'
import ChoiceField from '../../kit/ChoiceField.vue'
import PlainField from '../../kit/PlainField.vue'
import { useEdits } from '../../state/edits'
import type { ShapeProps } from './more'

/** How many sides a polygon has, and over what its size is measured. */
const props = defineProps<ShapeProps<Schemas['RegularPolygon']>>()
const edits = useEdits()
</script>

<template>
  <PlainField label="Sides" :value="hole.sides" :most="60" :save="(sides) => void edits.told(props.save({ sides: Number(sides) }))" />
  <ChoiceField label="Size is over its" :value="hole.across" :options="['flats', 'corners']" :save="(across) => void edits.told(props.save({ across }))" />
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import ChoiceField from '../../kit/ChoiceField.vue'
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useEdits } from '../../state/edits'
import LetterFields from '../LetterFields.vue'
import type { ShapeProps } from './more'

/** A text: its words, font, and how its letters are set. */
const props = defineProps<ShapeProps<Schemas['TextHole']>>()
const edits = useEdits()
</script>

<template>
  <PlainField label="Text" :value="hole.text" :save="(words) => void edits.told(props.save({ text: words.slice(0, 60) }))" />
  <ChoiceField label="Font" :value="hole.font" :options="['single line', 'stencil', 'plain']" :save="(font) => void edits.told(props.save({ font }))" />
  <template v-if="hole.font !== 'single line'">
    <LetterFields :letters="hole" :value="value" :save="save" />
    <SizeField v-if="hole.font === 'plain'" label="Bridges to islands" :size="hole.bridges" :value="value('bridges')" :save="(bridges) => props.save({ bridges })" />
  </template>
</template>

<script setup lang="ts">
import type { Mark, Part } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import LetterFields from './LetterFields.vue'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'

/** Texts that are scored or engraved on a part. */
const props = defineProps<{ part: Part; putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()
const edits = useEdits()

function put(index: number, change: Partial<Mark>): Promise<Refusal | null> {
  return props.putPart(({ marks }) => ({ marks: marks.map((mark, i) => (i === index ? { ...mark, ...change } : mark)) }))
}

function now(index: number, change: Partial<Mark>): void {
  void edits.told(put(index, change))
}

function add(): void {
  void edits.change({ do: 'begin mark', part: props.part.id })
}

function remove(index: number): void {
  void edits.told(props.putPart(({ marks }) => ({ marks: marks.filter((_, i) => i !== index) })))
}

function value(index: number, field: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/marks/${index}/${field}`]
}
</script>

<template>
  <p><ActButton @click="add">+ Text on the face</ActButton></p>
  <FoldSection v-for="(mark, index) in part.marks" :key="`${part.id}${index}`" :title="mark.text" folded>
    <div class="stack">
      <PlainField label="Text" :value="mark.text" :save="(text) => now(index, { text: text.slice(0, 40) })" />
      <ChoiceField label="Font" :value="mark.font" :options="['single line', 'plain', 'stencil']" :save="(font) => now(index, { font })" />
      <ChoiceField label="is" :value="mark.operation" :options="mark.font === 'single line' ? ['score', 'engrave'] : ['score', 'engrave', 'fill']" :names="{ score: 'scored', engrave: 'engraved', fill: 'engraved, filled' }" :save="(operation) => now(index, { operation })" />
      <SizeField label="Cap height" :size="mark.height" :value="value(index, 'height')" :save="(height) => put(index, { height })" />
      <LetterFields v-if="mark.font !== 'single line'" :letters="mark" :value="(field) => value(index, field)" :save="(change) => put(index, change)" />
      <SizeField label="Placed across" :size="mark.x" :value="value(index, 'x')" :save="(x) => put(index, { x })" />
      <SizeField label="Placed up" :size="mark.y" :value="value(index, 'y')" :save="(y) => put(index, { y })" />
      <SizeField label="Turned by (degrees)" :size="mark.turn" bare :save="(turn) => put(index, { turn })" />
      <p><ActButton @click="remove(index)">Remove text</ActButton></p>
    </div>
  </FoldSection>
</template>

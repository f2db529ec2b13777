<script setup lang="ts">
import type { Mark, Part } from '../api/client'
import ChoiceField from '../fields/ChoiceField.vue'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { useWorkshop, type Refusal } from '../stores/workshop'
import { newMark } from './fresh'
import LetterFields from './LetterFields.vue'

/** Texts that are scored or engraved on a part. */
const props = defineProps<{ part: Part; putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()

function put(index: number, change: Partial<Mark>): Promise<Refusal | null> {
  return props.putPart(({ marks }) => ({ marks: marks.map((mark, i) => (i === index ? { ...mark, ...change } : mark)) }))
}

function now(index: number, change: Partial<Mark>): void {
  void workshop.told(put(index, change))
}

function add(): void {
  void workshop.told(props.putPart(({ marks }) => ({ marks: [...marks, newMark(workshop.unit)] })))
}

function remove(index: number): void {
  void workshop.told(props.putPart(({ marks }) => ({ marks: marks.filter((_, i) => i !== index) })))
}

function value(index: number, field: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/marks/${index}/${field}`]
}
</script>

<template>
  <h3>Scored text</h3>
  <p><button type="button" class="plain-button" @click="add">+ Text on the face</button></p>
  <details v-for="(mark, index) in part.marks" :key="`${part.id}${index}`">
    <summary>{{ mark.text }}</summary>
    <div class="stack">
      <PlainField label="Text" :value="mark.text" :save="(text) => now(index, { text: text.slice(0, 40) })" />
      <ChoiceField label="Font" :value="mark.font" :options="['single line', 'plain', 'stencil']" :save="(font) => now(index, { font })" />
      <ChoiceField label="is" :value="mark.operation" :options="['score', 'engrave']" :names="{ score: 'scored', engrave: 'engraved' }" :save="(operation) => now(index, { operation })" />
      <SizeField label="Cap height" :size="mark.height" :value="value(index, 'height')" :save="(height) => put(index, { height })" />
      <LetterFields v-if="mark.font !== 'single line'" :letters="mark" :value="(field) => value(index, field)" :save="(change) => put(index, change)" />
      <SizeField label="Placed across" :size="mark.x" :value="value(index, 'x')" :save="(x) => put(index, { x })" />
      <SizeField label="Placed up" :size="mark.y" :value="value(index, 'y')" :save="(y) => put(index, { y })" />
      <SizeField label="Turned by (degrees)" :size="mark.turn" bare :save="(turn) => put(index, { turn })" />
      <p><button type="button" class="plain-button" @click="remove(index)">Remove text</button></p>
    </div>
  </details>
</template>

<style scoped>
summary { cursor: pointer; }
details { margin-top: 4px; }
</style>

<script setup lang="ts">
import type { Part, Size } from '../api/client'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { typed } from '../fields/units'
import { useWorkshop, type Refusal } from '../stores/workshop'

/** Texts that are scored on a part, in single lines. */
const props = defineProps<{ part: Part; putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()

type Mark = Part['marks'][number]

function put(index: number, change: Partial<Mark>): Promise<Refusal | null> {
  return props.putPart(({ marks }) => ({ marks: marks.map((mark, i) => (i === index ? { ...mark, ...change } : mark)) }))
}

function add(): void {
  const middle = (text: string): Size => ({ text, unit: 'mm' })
  const mark: Mark = { text: 'TEXT', x: middle('width/2'), y: middle('height/2'), height: typed(5, workshop.unit), turn: middle('0') }
  void workshop.told(props.putPart(({ marks }) => ({ marks: [...marks, mark] })))
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
  <p><button type="button" class="plain-button" @click="add">+ Text</button></p>
  <details v-for="(mark, index) in part.marks" :key="`${part.id}${index}`">
    <summary>{{ mark.text }}</summary>
    <div class="stack">
      <PlainField label="Text" :value="mark.text" :save="(text) => void workshop.told(put(index, { text }))" />
      <SizeField label="Cap height" :size="mark.height" :value="value(index, 'height')" :save="(height) => put(index, { height })" />
      <SizeField label="Middle, across" :size="mark.x" :value="value(index, 'x')" :save="(x) => put(index, { x })" />
      <SizeField label="Middle, up" :size="mark.y" :value="value(index, 'y')" :save="(y) => put(index, { y })" />
      <SizeField label="Turned by (degrees)" :size="mark.turn" bare :save="(turn) => put(index, { turn })" />
      <p><button type="button" class="plain-button" @click="remove(index)">Remove text</button></p>
    </div>
  </details>
</template>

<style scoped>
summary { cursor: pointer; }
details { margin-top: 4px; }
</style>

<script setup lang="ts">
import { ref } from 'vue'

import type { Size, Stock } from '../api/client'
import ChoiceField from '../fields/ChoiceField.vue'
import SizeField from '../fields/SizeField.vue'
import { useWorkshop, type Refusal } from '../stores/workshop'
import type { Kind, Starter } from './kinds'

/** The numbers and choices of a starter. */
const props = defineProps<{
  kind: Kind
  starter: Starter
  stocks: Stock[]
  save: (change: (starter: Starter) => Partial<Starter>) => Promise<Refusal | null>
}>()

const workshop = useWorkshop()

function size(name: string, begins: string): Size {
  return props.starter.sizes[name] ?? { text: begins, unit: 'mm' }
}

function put(name: string, typed: Size): Promise<Refusal | null> {
  return props.save(({ sizes }) => ({ sizes: { ...sizes, [name]: typed } }))
}

/** What a list is called: its bare numbers are in the maker's unit. */
function listTitle(number: Kind['numbers'][number]): string {
  return size(number.name, number.begins).unit === 'in' ? `${number.title} (in inches)` : number.title
}

const refused = ref('')

/** A choice has no field to show its refusal beside. */
async function choose(change: (starter: Starter) => Partial<Starter>): Promise<void> {
  refused.value = (await props.save(change))?.message ?? ''
}

function names(): Record<string, string> {
  return Object.fromEntries(props.stocks.map((stock) => [stock.id, stock.name]))
}
</script>

<template>
  <div class="stack">
    <ChoiceField label="Stock" :value="starter.stock" :options="stocks.map((s) => s.id)" :names="names()" :save="(stock) => choose(() => ({ stock }))" />
    <ChoiceField v-if="kind.second_stock" :label="kind.second_stock" :value="starter.second_stock" :options="stocks.map((s) => s.id)" :names="names()" :save="(second_stock) => choose(() => ({ second_stock }))" />
    <ChoiceField v-for="choice in kind.choices" :key="choice.name" :label="choice.title" :value="starter.choices[choice.name] ?? choice.options[0] ?? ''" :options="choice.options" :save="(chosen) => choose(({ choices }) => ({ choices: { ...choices, [choice.name]: chosen } }))" />
    <template v-for="number in kind.numbers" :key="`${kind.key}${number.name}`">
      <SizeField v-if="number.holds === 'list'" :label="listTitle(number)" :size="size(number.name, number.begins)" bare :save="({ text }) => put(number.name, { text, unit: workshop.unit })" />
      <SizeField v-else :label="number.title" :size="size(number.name, number.begins)" :bare="number.holds === 'plain'" :save="(typed) => put(number.name, typed)" />
    </template>
    <p v-if="refused" class="why" role="alert">{{ refused }}</p>
  </div>
</template>

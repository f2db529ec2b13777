<script setup lang="ts">
import { ref } from 'vue'

import type { Size, Stock } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import type { Kind, Starter } from './kinds'

/** The numbers and choices of a starter; `begins` has what those are that were not typed. */
const props = defineProps<{
  kind: Kind
  starter: Starter
  begins: Record<string, Size>
  stocks: Stock[]
  save: (change: (starter: Starter) => Partial<Starter>) => Promise<Refusal | null>
}>()

const workshop = useWorkshop()

function size({ name, begins }: Kind['numbers'][number]): Size {
  return props.starter.sizes[name] ?? props.begins[name] ?? begins
}

/** Numbers that were typed and do not fit yet: each stays in its field, and is taken with the one that makes it fit. */
const waiting = ref<Record<string, Size>>({})

async function put(name: string, typed: Size): Promise<Refusal | null> {
  const others = without(name)
  const together = await take({ ...others, [name]: typed })
  if (!together) {
    waiting.value = {}
    return null
  }
  const alone = Object.keys(others).length ? await take({ [name]: typed }) : together
  waiting.value = alone ? { ...others, [name]: typed } : others
  return alone
}

function take(numbers: Record<string, Size>): Promise<Refusal | null> {
  return props.save(({ sizes }) => ({ sizes: { ...sizes, ...numbers } }))
}

function without(name: string): Record<string, Size> {
  return Object.fromEntries(Object.entries(waiting.value).filter(([other]) => other !== name))
}

function giveUp(name: string): void {
  waiting.value = without(name)
}

/** What a list is called: its bare numbers are in the maker's unit. */
function listTitle(number: Kind['numbers'][number]): string {
  return size(number).unit === 'in' ? `${number.title} (in inches)` : number.title
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
      <SizeField v-if="number.holds === 'list'" :label="listTitle(number)" :size="size(number)" bare :save="({ text }) => put(number.name, { text, unit: workshop.unit })" :give-up="() => giveUp(number.name)" />
      <SizeField v-else :label="number.title" :size="size(number)" :bare="number.holds === 'plain'" :save="(typed) => put(number.name, typed)" :give-up="() => giveUp(number.name)" />
    </template>
    <p v-if="refused" class="why" role="alert">{{ refused }}</p>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Stock } from '../api/client'
import { WOODS } from '../api/tables'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import { withUnit } from '../kit/units'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** Which wood a solid stock is, and the air that its parts are cut and used in: how it shrinks and swells. */
const props = defineProps<{ stock: Stock; facts: Schemas['StockShown'] | null; put: (change: Partial<Stock>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()

type Wood = NonNullable<Stock['wood']>
const AIRS = { cut_at: 'Air where it is cut, %', driest: 'Driest where it is used, %', dampest: 'Dampest, %', temperature: 'Temperature, °C' } as const
type Air = keyof typeof AIRS

const wood = computed(() => props.stock.wood)
const says = computed(() => {
  const found = props.facts?.wood
  if (!found) return ''
  const told = [found.driest, found.dampest].map(({ humidity, across }) => `${across < 0 ? 'shrinks' : 'swells'} ${withUnit(Math.abs(across) * 100, workshop.unit)} at ${humidity} %`)
  return `100 mm across the grain ${told.join(' and ')}; along it wood keeps its length. It is cut at ${found.moisture.toFixed(1)} % of moisture.`
})

function now(change: Partial<Wood> | null): void {
  const wanted = change && { species: 'oak, commercial white' as const, ...wood.value, ...change }
  void props.put({ wood: wanted as Stock['wood'] }).then((why) => { if (why) workshop.say(why.message) })
}
</script>

<template>
  <div class="stack">
    <ChoiceField label="Wood" :value="wood?.species ?? null" :options="WOODS" :save="(species) => now({ species })" />
    <template v-if="wood">
      <ChoiceField label="Its boards are" :value="wood.sawn" :options="['flat', 'quarter'] as const" :names="{ flat: 'flat-sawn', quarter: 'quarter-sawn' }" :save="(sawn) => now({ sawn })" />
      <PlainField v-for="(called, air) in AIRS" :key="air" :label="called" :value="wood[air as Air]" :most="95" :save="(typed) => now({ [air]: Number(typed) })" />
      <p class="explain">{{ says }}</p>
      <p><ActButton @click="now(null)">It keeps its size</ActButton></p>
    </template>
    <p v-else class="explain">Once its wood is known, joints that bind or open in dry and in damp air are told under Join.</p>
  </div>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

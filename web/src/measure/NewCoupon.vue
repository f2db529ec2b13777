<script setup lang="ts">
import { reactive } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas, type Stock } from '../api/client'
import PlainField from '../kit/PlainField.vue'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'

/** A small project of its own, cut from an offcut: a comb of slots to try the fits, or a strip for the kerf. */
const props = defineProps<{ stock: Stock }>()
const workshop = useWorkshop()
const picked = useChoice()
const router = useRouter()
const range = reactive({ low: '-0.1', high: '0.3', step: '0.05' })

function millimetres(text: string): number {
  return Number(text.replace(',', '.').replace('−', '-'))
}

/** A range about the clearance that a fit has now. */
function around(fit: 'loose' | 'sliding' | 'glue' | 'press'): void {
  const now = workshop.shown?.stocks[props.stock.id]?.clearance[fit] ?? 0
  Object.assign(range, { low: (now - 0.1).toFixed(3), high: (now + 0.1).toFixed(3), step: '0.025' })
}

async function make(kind: Schemas['NewCoupon']['kind']): Promise<void> {
  const [low, high, step] = [millimetres(range.low), millimetres(range.high), millimetres(range.step)]
  if ([low, high, step].some(Number.isNaN)) {
    workshop.say('The clearances of a comb are plain numbers in mm, such as 0.05.')
    return
  }
  const { data, error } = await client.POST('/api/coupons', { body: { stock: props.stock, machine: picked.machine, kind, low, high, step } })
  if (data) await router.push(`/projects/${data.slug}/lay-out`)
  else workshop.say(sentence(error))
}
</script>

<template>
  <section>
    <h2>Cut a coupon</h2>
    <p class="explain">A comb has a slot for each clearance, marked with it, a tongue to try in them, and a square whose slug gives the kerf.</p>
    <div class="stack">
      <PlainField label="Clearances from, mm" :value="range.low" :save="(text) => { range.low = text }" />
      <PlainField label="to, mm" :value="range.high" :save="(text) => { range.high = text }" />
      <PlainField label="in steps of, mm" :value="range.step" :save="(text) => { range.step = text }" />
    </div>
    <p class="in-line around">about
      <ActButton v-for="fit in ['press', 'glue', 'sliding', 'loose'] as const" :key="fit" @click="around(fit)">{{ fit }}</ActButton>
    </p>
    <p class="in-line">
      <ActButton look="ink" @click="make('fit comb')">Make a fit comb</ActButton>
      <ActButton look="ink" @click="make('kerf strip')">Make a kerf strip</ActButton>
    </p>
  </section>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; margin-bottom: 6px; }
.around { margin: 6px 0 10px; gap: 10px; color: var(--soft-ink); }
</style>

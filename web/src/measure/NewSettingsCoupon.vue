<script setup lang="ts">
import { reactive, ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Setting, type Stock } from '../api/client'
import { OPERATIONS, WORKS } from '../api/tables'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'

/** A grid of squares over speed and power for one operation, cut as a project of its own. */
const props = defineProps<{ stock: Stock }>()
const workshop = useWorkshop()
const picked = useChoice()
const router = useRouter()
const operation = ref<Setting['operation']>('cut')
const range = reactive({ slowest: '', fastest: '', speeds: 5, weakest: '', strongest: '', powers: 4 })
const NAMES = Object.fromEntries(WORKS.map((work) => [work, OPERATIONS[work].asked.toLowerCase()]))

/** Half as fast to half as fast again as now, and power likewise. */
function around(): void {
  const now = workshop.shown?.stocks[props.stock.id]?.settings.find((one) => one.operation === operation.value)
  if (!now) return
  const most = picked.machine?.kind === 'beam' ? 100 : (picked.machine?.most ?? 100)
  Object.assign(range, { slowest: String(now.speed / 2), fastest: String(Math.min(now.speed * 1.5, picked.machine?.working.speed ?? now.speed)), weakest: String(now.power / 2), strongest: String(Math.min(now.power * 1.4, most)) })
}

function choose(work: Setting['operation']): void {
  operation.value = work
  around()
}

async function make(): Promise<void> {
  const machine = picked.machine
  if (!machine) {
    workshop.say('Settings belong to a machine; choose one along the top first.')
    return
  }
  if (!range.slowest) around()
  const [slowest, fastest, weakest, strongest] = [range.slowest, range.fastest, range.weakest, range.strongest].map((text) => Number(text.replace(',', '.')))
  if ([slowest, fastest, weakest, strongest].some((value) => !Number.isFinite(value))) {
    workshop.say('Speeds and powers are plain numbers, such as 16.')
    return
  }
  const body = { stock: props.stock, machine, operation: operation.value, slowest: slowest ?? 0, fastest: fastest ?? 0, speeds: range.speeds, weakest: weakest ?? 0, strongest: strongest ?? 0, powers: range.powers }
  const { data, error } = await client.POST('/api/coupons/settings', { body })
  if (data) await router.push(`/projects/${data.slug}/prepare`)
  else workshop.say(sentence(error))
}
</script>

<template>
  <section aria-label="Settings coupon">
    <h2>Try settings</h2>
    <p class="explain">A small square for each speed, from left to right, and power, upwards, marked with both. Pick the best one afterwards.</p>
    <div class="stack">
      <ChoiceField label="To try" :value="operation" :options="['cut', 'score', 'engrave', 'fill'] as const" :names="NAMES" :save="choose" />
      <PlainField label="Slowest, mm/s" :value="range.slowest" blank="half of now" :save="(text) => { range.slowest = text }" />
      <PlainField label="Fastest, mm/s" :value="range.fastest" blank="half more" :save="(text) => { range.fastest = text }" />
      <PlainField label="Steps of speed" :value="range.speeds" :most="8" :save="(text) => { range.speeds = Number(text) }" />
      <PlainField label="Weakest" :value="range.weakest" blank="half of now" :save="(text) => { range.weakest = text }" />
      <PlainField label="Strongest" :value="range.strongest" blank="a little more" :save="(text) => { range.strongest = text }" />
      <PlainField label="Steps of power" :value="range.powers" :most="8" :save="(text) => { range.powers = Number(text) }" />
    </div>
    <p class="in-line make"><ActButton look="ink" @click="make">Make a settings coupon</ActButton></p>
  </section>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; margin-bottom: 6px; }
.make { margin-top: 10px; }
</style>

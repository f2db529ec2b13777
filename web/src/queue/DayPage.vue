<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import GoLink from '../kit/GoLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import { cutIn, howItStands, timeOf } from './day'

/** The day at the machines: what each cuts, in order, until when; what is late, what lacks its sheet, what can go elsewhere. */
type Turn = Schemas['DayTurn']
const day = shallowRef<Schemas['DayShown'] | null>(null)
const trouble = ref('')
const nowhere = null as string | null

/** The clocks begin anew whenever it is asked (ms). */
const EVERY = 5000

async function look(): Promise<void> {
  const { data, error } = await client.GET('/api/desk/day')
  if (data) day.value = data
  trouble.value = data ? '' : sentence(error)
}
onMounted(look)
useIntervalFn(look, EVERY)

function othersOf(turn: Turn): Schemas['OtherMachine'][] {
  return turn.numbers.length === 1 ? (day.value?.others[String(turn.numbers[0])] ?? []) : []
}

/** Has another machine cut a sheet; its ticks have to be set again. */
async function moveTo(number: number, machine: string): Promise<void> {
  const params = { path: { number } }
  const { data: looked, error } = await client.GET('/api/queue/{number}', { params })
  if (!looked) {
    trouble.value = sentence(error)
    return
  }
  const body = { version: looked.shown.version, machine, datum: null, holding: null }
  const answer = await client.POST('/api/queue/{number}/set-up', { params, body })
  await look()
  if (!answer.data) trouble.value = sentence(answer.error)
}

const PLAIN = [
  { key: 'numbers', title: 'No', width: 76, number: true, text: (turn: Turn) => turn.numbers.join(', ') },
  { key: 'owners', title: 'Whose', least: 140, text: (turn: Turn) => turn.owners.join(', ') },
  { key: 'stock', title: 'Stock', least: 150, text: (turn: Turn) => turn.stock },
  { key: 'due', title: 'By', width: 84, text: (turn: Turn) => (turn.due ? new Date(turn.due).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' }) : '') },
  { key: 'time', title: 'Takes', width: 92, number: true, text: (turn: Turn) => cutIn(turn.seconds) },
  { key: 'ends', title: 'Done by', width: 88, number: true, text: (turn: Turn) => (turn.lacks ? '' : timeOf(turn.ends)) },
  { key: 'stands', title: 'Stands', least: 150, text: howItStands },
]
/** Nothing is asked where no sheet could go elsewhere. */
const columns = computed(() => (Object.values(day.value?.others ?? {}).some((some) => some.length) ? [...PLAIN, { key: 'elsewhere', title: 'Or', width: 220 }] : PLAIN))
</script>

<template>
  <main class="day">
    <PageHead title="The day at the machines" back="Hand-in queue" back-to="/queue"><p>{{ day ? `${day.machines.reduce((sum, { turns }) => sum + turns.length, 0)} sheets to cut` : '' }}</p></PageHead>
    <div class="lists">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <p v-if="day && !day.machines.length" class="soft">Nothing waits to be cut. What makers hand in, and is not returned, stands here.</p>
      <section v-for="one in day?.machines" :key="one.machine" :aria-label="one.machine">
        <h2>{{ one.machine }} <span class="soft">{{ one.turns.length }} {{ one.turns.length === 1 ? 'sheet' : 'sheets' }}, {{ cutIn(one.seconds) }} without a break{{ one.by_hand ? `, ${cutIn(one.by_hand)} of it by hand` : '' }}</span> <GoLink :to="`/day/${encodeURIComponent(one.machine)}`">At this machine</GoLink></h2>
        <RowsTable :label="one.machine" :rows="one.turns" :columns="columns" :mark="(turn) => (turn.late || turn.lacks ? 'wrong' : '')">
          <template #elsewhere="{ row }"><ChoiceField v-if="othersOf(row).length" :label="`Number ${row.numbers[0]} on`" :value="nowhere" empty="this one" :options="othersOf(row).map(({ id }) => id)" :names="Object.fromEntries(othersOf(row).map(({ id, name }) => [id, name]))" :save="(id) => void moveTo(row.numbers[0]!, id ?? '')" /></template>
        </RowsTable>
      </section>
      <p v-if="day?.machines.length" class="soft">In this order: what is in the machine, then by the day it is wanted, then by number. Times are by each machine's own clock, from now on, with the work by hand at each sheet that stands with the workshop's rates. Another machine is offered where its bed is large enough and it is known how wide it cuts the stock.</p>
    </div>
  </main>
</template>

<style scoped>
.day { min-height: var(--page); }
.lists { padding: 6px 14px 20px; }
h2 { display: flex; align-items: baseline; gap: 12px; font-size: 15px; margin: 14px 0 4px; }
section { margin-bottom: 10px; }
.soft { color: var(--soft-ink); font-size: 12.5px; font-weight: 400; }
</style>

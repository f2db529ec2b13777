<script setup lang="ts">
import { computed, ref } from 'vue'

import { between } from '../frame/ready'
import { STATIONS, type StationKey } from '../frame/stations'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import ProgressBar from '../kit/ProgressBar.vue'
import { when } from '../projects/listed'
import { useRun } from '../state/run'
import { useWorkshop } from '../state/workshop'

/** What is between the project and the cut; all that needs no choice is done by one press. */
const workshop = useWorkshop()
const nesting = useRun('nest')
const proving = useRun('prove')
const stopped = ref(false)

const left = computed(() => (workshop.shown ? between(workshop.shown) : []))
const alone = computed(() => left.value.filter((one) => one.alone))
const going = computed(() => (nesting.going.value ? nesting : proving.going.value ? proving : null))
const doing = computed(() => (nesting.going.value ? 'Laying the parts out' : 'Proving sheet after sheet'))
const trouble = computed(() => nesting.trouble.value || proving.trouble.value)
const proof = computed(() => workshop.shown?.proof ?? null)
const press = computed(() => (alone.value.some(({ station }) => station === 'lay-out') ? 'Lay out and prove' : 'Prove'))

function nameOf(key: StationKey): string {
  return STATIONS.find((station) => station.key === key)?.name ?? key
}

/** Lays out where that is to be done, and proves what then lies there. */
async function makeReady(): Promise<void> {
  const slug = workshop.shown?.slug
  if (!slug) return
  stopped.value = false
  if (workshop.shown?.layout_out_of_date) {
    const run = await nesting.start(slug)
    await workshop.open(slug)
    if (!run?.nest || run.state === 'failed' || run.offered || stopped.value) return
  }
  if (!workshop.shown?.sheets.length) return
  await proving.start(slug)
  await workshop.lookAgain()
}

async function stop(): Promise<void> {
  stopped.value = true
  await going.value?.stop()
}
</script>

<template>
  <section class="ready" aria-label="Ready to cut">
    <div v-if="going" role="status">
      <p>{{ doing }} … <ActButton :disabled="going.stopping.value" @click="stop">{{ going.stopping.value ? 'Stopping …' : 'Stop' }}</ActButton></p>
      <ProgressBar :label="doing" :done="going.run.value?.progress ?? 0" :ahead="going.run.value?.ahead" />
    </div>
    <p v-else-if="proof && !left.length" class="good" role="status">Ready to cut: {{ proof.parts === 1 ? 'the part was' : `all ${proof.parts} parts were` }} proved as meant on {{ when(proof.when) }}, and nothing was changed since.</p>
    <template v-else>
      <p><b>Before it is cut:</b></p>
      <ul>
        <li v-for="one in left" :key="`${one.station} ${one.says}`"><GoLink :to="`/projects/${workshop.shown?.slug}/${one.station}`">{{ nameOf(one.station) }}</GoLink>: {{ one.says }}</li>
      </ul>
      <p v-if="proof?.now && proof.faults" class="why">Proved on {{ when(proof.when) }}: {{ proof.faults }} {{ proof.faults === 1 ? 'fault' : 'faults' }}, told in the margin.</p>
      <ActButton v-if="alone.length" look="ink" @click="makeReady">{{ press }} now</ActButton>
    </template>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.ready { padding: 8px 10px; margin: 4px 0 8px; border: 1px solid var(--rule); background: var(--paper); }
.good { margin: 0; color: var(--right); }
ul { margin: 4px 0 8px; padding: 0; list-style: none; }
p { margin: 0; }
</style>

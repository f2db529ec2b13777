<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'

import { base64 } from '../api/base64'
import { client, sentence, type Schemas } from '../api/client'
import { lookWhoIsHere } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import PickFile from '../kit/PickFile.vue'
import PaperSheet from '../kit/PaperSheet.vue'
import TextLines from '../kit/TextLines.vue'
import MakersCards from './MakersCards.vue'

/** The makers who come in by name: put on the list, given another word, taken off it. Words are seen once, on cards. */
type Maker = Schemas['MakerShown']
const makers = shallowRef<Maker[]>([])
const typed = ref('')
const trouble = ref('')
const adding = ref(false)
const cards = shallowRef<Schemas['CardShown'][]>([])
const showsCards = ref(false)
const leaving = shallowRef<Maker | null>(null)

async function list(): Promise<void> {
  const { data, error } = await client.GET('/api/makers')
  if (data) makers.value = data
  else trouble.value = sentence(error)
}
onMounted(list)

/** Shows what was made of a call: cards, or why there are none. */
async function show(made: Schemas['CardShown'][] | null, error: unknown): Promise<void> {
  trouble.value = made ? '' : sentence(error)
  if (!made) return
  cards.value = made
  showsCards.value = true
  await Promise.all([list(), lookWhoIsHere()])
}

async function add(): Promise<void> {
  adding.value = true
  // A column pasted from a table has tabs behind its names.
  const names = typed.value.split('\n').map((line) => line.split('\t')[0] ?? '')
  const { data, error } = await client.POST('/api/makers', { body: { names } })
  adding.value = false
  if (data) typed.value = ''
  await show(data ?? null, error)
}

/** The names of a table are put into the field, where what is no name can be taken out. */
async function read(file: File): Promise<void> {
  const { data, error } = await client.POST('/api/makers/read', { body: { data: await base64(file) } })
  trouble.value = data ? '' : sentence(error)
  if (data) typed.value = [...typed.value.split('\n').filter(Boolean), ...data].join('\n')
}

async function renew({ number }: Maker): Promise<void> {
  const { data, error } = await client.POST('/api/makers/{number}/word', { params: { path: { number } } })
  await show(data ? [data] : null, error)
}

async function takeOff({ number }: Maker): Promise<void> {
  const { error } = await client.DELETE('/api/makers/{number}', { params: { path: { number } } })
  trouble.value = error ? sentence(error) : ''
  leaving.value = null
  await Promise.all([list(), lookWhoIsHere()])
}

function has({ projects, came }: Maker): string {
  const work = projects === 1 ? '1 project' : `${projects} projects`
  return came ? `${work}, here last on ${new Date(came).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}` : `${work}, was not here yet`
}
</script>

<template>
  <p v-if="!makers.length" class="soft">With a list each maker comes in by name and word, and has projects of their own. Until then all of them share the hand-in word.</p>
  <form @submit.prevent="add">
    <TextLines v-model="typed" label="Names to put on the list" placeholder="one name in a line" />
    <p class="from-file">From a table: <PickFile of="names" accept=".csv,.tsv,.txt" :take="read">read a CSV file</PickFile></p>
    <ActButton look="ink" submits :disabled="adding">{{ adding ? 'Making their cards …' : 'Put them on the list' }}</ActButton>
  </form>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <ul v-if="makers.length" class="makers" aria-label="Makers">
    <li v-for="maker in makers" :key="maker.number">
      <span class="name cut-off" :title="maker.name">{{ maker.name }}</span>
      <span class="soft">{{ has(maker) }}</span>
      <span class="acts">
        <ActButton :aria-label="`New word for ${maker.name}`" @click="renew(maker)">new word</ActButton>
        <ActButton v-if="leaving !== maker" :aria-label="`Take ${maker.name} off the list`" @click="leaving = maker">take off</ActButton>
        <ActButton v-else look="ink" :aria-label="`Take ${maker.name} off now`" @click="takeOff(maker)">off now; {{ maker.projects ? 'the workshop keeps the projects' : 'there is no project' }}</ActButton>
      </span>
    </li>
  </ul>
  <PaperSheet v-model="showsCards" title="Cards to come in with" width="760px"><MakersCards :cards="cards" /></PaperSheet>
</template>

<style scoped>
.soft { color: var(--soft-ink); font-size: 12px; }
p.from-file { margin: 0; font-size: 12.5px; }
form { display: grid; gap: 6px; justify-items: start; }
.makers { list-style: none; margin: 10px 0 0; padding: 0; border-top: 1px solid var(--rule); max-height: 320px; overflow-y: auto; }
.makers li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 12px; padding: 4px 0; border-bottom: 1px solid var(--faint-rule); }
.makers .soft { grid-row: 2; grid-column: 1; }
.acts { grid-row: 1 / 3; display: flex; gap: 12px; align-items: center; }
</style>

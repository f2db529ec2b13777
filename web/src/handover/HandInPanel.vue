<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { freshKey } from '../api/order'
import { here } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import PlainField from '../kit/PlainField.vue'
import TickField from '../kit/TickField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

const DateField = defineAsyncComponent(() => import('../kit/DateField.vue'))

/** Sheets handed in to whoever runs the machine: whose they are, by when, and where each stands. */
const workshop = useWorkshop()
const edits = useEdits()
const picked = useChoice()
const owner = ref(here.value?.name || (localStorage.getItem('hands-in') ?? ''))
const group = ref('')
const due = ref('')
const sheets = ref<number[]>([])
const instead = ref<number | null>(null)
const rows = shallowRef<Schemas['HandInShown'][]>([])
const trouble = ref('')
const done = ref('')
let key = freshKey()

const slug = computed(() => workshop.shown?.slug ?? '')
const all = computed(() => (workshop.document?.layout.sheets ?? []).map((_, index) => index + 1))
const chosen = computed(() => (sheets.value.length ? sheets.value : [picked.sheet + 1]))

async function look(): Promise<void> {
  const { data } = await client.GET('/api/projects/{slug}/hand-ins', { params: { path: { slug: slug.value } } })
  rows.value = data ?? []
}
onMounted(look)
watch(slug, look)

function choose(sheet: number, on: boolean): void {
  sheets.value = on ? [...sheets.value, sheet].sort((a, b) => a - b) : sheets.value.filter((one) => one !== sheet)
}

async function handIn(): Promise<void> {
  trouble.value = done.value = ''
  const body = { sheets: instead.value ? [picked.sheet + 1] : chosen.value, owner: owner.value, group: group.value, due: due.value || null, instead_of: instead.value, key }
  const { data, error } = await edits.inTurn(() => client.POST('/api/projects/{slug}/hand-in', { params: { path: { slug: slug.value } }, body }))
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  key = freshKey()
  localStorage.setItem('hands-in', owner.value)
  done.value = `Handed in as number ${data.map(({ number }) => number).join(', ')}.`
  instead.value = null
  await look()
}

async function takeBack(row: Schemas['HandInShown']): Promise<void> {
  const { error } = await client.POST('/api/queue/{number}/take-back', { params: { path: { number: row.number } }, body: { version: row.version } })
  trouble.value = error ? sentence(error) : ''
  await look()
}

/** What is handed in anew takes the place of what went before, which is kept. */
function anew(row: Schemas['HandInShown']): void {
  instead.value = row.number
  owner.value = row.owner
  group.value = row.group
}
</script>

<template>
  <div class="stack">
    <PlainField label="Whose it is" :value="owner" :save="(text) => { owner = text }" />
    <PlainField label="Group or class" :value="group" :save="(text) => { group = text }" />
    <DateField v-model="due" label="Wanted by" ahead />
  </div>
  <p v-if="all.length > 1 && !instead" class="in-line"><TickField v-for="sheet in all" :key="sheet" :value="chosen.includes(sheet)" :save="(on) => choose(sheet, on)">sheet {{ sheet }}</TickField></p>
  <p class="in-line">
    <ActButton look="ink" @click="handIn">{{ instead ? `Hand sheet ${picked.sheet + 1} in anew, for number ${instead}` : `Hand in sheet ${chosen.join(', ')}` }}</ActButton>
    <ActButton v-if="instead" @click="instead = null">not for it</ActButton>
  </p>
  <p v-if="done" role="status" class="done">{{ done }}</p>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <ul v-if="rows.length" class="rows" aria-label="What was handed in">
    <li v-for="row in rows" :key="row.number">
      <strong>{{ row.number }}</strong>, sheet {{ row.sheet }} of version {{ row.project_version }}: {{ row.state }}<template v-if="row.replaced_by"> by {{ row.replaced_by }}</template><template v-if="row.why">. {{ row.why }}</template>
      <span v-if="row.state === 'waiting' || row.state === 'returned'" class="acts"><ActButton :aria-label="`Take number ${row.number} back`" @click="takeBack(row)">take back</ActButton> <ActButton :aria-label="`Hand number ${row.number} in anew`" @click="anew(row)">hand in anew</ActButton></span>
    </li>
  </ul>
</template>

<style scoped>
.rows { margin: 6px 0; padding-left: 16px; font-size: 12.5px; }
.acts { white-space: nowrap; }
.done { color: var(--right); }
</style>

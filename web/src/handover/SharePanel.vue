<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import GoLink from '../kit/GoLink.vue'
import PlainField from '../kit/PlainField.vue'
import TickField from '../kit/TickField.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The project handed on: as one file, as a page to look at, or as a starter whose numbers are some of its named sizes. */
const workshop = useWorkshop()
const edits = useEdits()
const router = useRouter()
const says = ref('')
const title = ref('')
const trouble = ref('')
const numbers = ref<Record<string, { title: string; note: string; least: string; most: string }>>({})

const names = computed(() => workshop.document?.names ?? [])
const slug = computed(() => workshop.shown?.slug ?? '')

function choose(name: string, on: boolean): void {
  const note = names.value.find((one) => one.name === name)?.note ?? ''
  const others = Object.entries(numbers.value).filter(([one]) => one !== name)
  numbers.value = Object.fromEntries(on ? [...others, [name, { title: name.replace(/_/g, ' '), note, least: '', most: '' }]] : others)
}

function limit(text: string): number | null {
  return text.trim() ? Number(text.replace(',', '.')) : null
}

async function make(): Promise<void> {
  trouble.value = ''
  const chosen: Schemas['OwnNumber'][] = Object.entries(numbers.value).map(([name, one]) => ({ name, title: one.title, note: one.note, least: limit(one.least), most: limit(one.most) }))
  if (!chosen.length) {
    trouble.value = 'Choose a named size that is to be its number; there are none until you give some at Shape.'
    return
  }
  const body = { name: title.value || (workshop.document?.name ?? 'Starter'), says: says.value, numbers: chosen }
  const { data, error } = await edits.inTurn(() => client.POST('/api/projects/{slug}/own-starter', { params: { path: { slug: slug.value } }, body }))
  if (data) await router.push('/starters')
  else trouble.value = sentence(error)
}
</script>

<template>
  <p class="in-line"><FileLink :href="`/api/projects/${slug}/file`">Save the project to a file</FileLink> <GoLink :to="`/look/${slug}`">A page to look at</GoLink></p>
  <h3>A starter of your own</h3>
  <div class="stack">
    <PlainField label="Called" :value="title || workshop.document?.name || ''" :save="(text) => { title = text }" />
    <PlainField label="What it is good for" :value="says" :save="(text) => { says = text }" />
  </div>
  <p class="explain">Named sizes that are its numbers:</p>
  <div v-for="{ name } in names" :key="name">
    <TickField :value="name in numbers" :save="(on) => choose(name, on)">{{ name }}</TickField>
    <div v-if="numbers[name]" class="stack one">
      <PlainField :label="`Title of ${name}`" :value="numbers[name]!.title" :save="(text) => { numbers[name]!.title = text }" />
      <PlainField :label="`Note on ${name}`" :value="numbers[name]!.note" :save="(text) => { numbers[name]!.note = text }" />
      <PlainField :label="`Least of ${name}, mm`" :value="numbers[name]!.least" :save="(text) => { numbers[name]!.least = text }" />
      <PlainField :label="`Most of ${name}, mm`" :value="numbers[name]!.most" :save="(text) => { numbers[name]!.most = text }" />
    </div>
  </div>
  <p><ActButton look="ink" @click="make">Make it a starter</ActButton></p>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
</template>

<style scoped>
.one { border-left: 2px solid var(--rule); padding-left: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

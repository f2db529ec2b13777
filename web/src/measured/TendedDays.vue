<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'

import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import TextInput from '../kit/TextInput.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** Days on which something was done to the machine: what was measured before says nothing of how it cuts since. */
const DateField = defineAsyncComponent(() => import('../kit/DateField.vue'))
const props = defineProps<{ machine: string }>()
const workshop = useWorkshop()
const edits = useEdits()

const machine = computed(() => workshop.document?.machines.find(({ id }) => id === props.machine) ?? null)
const tended = computed(() => machine.value?.tended ?? [])
const says = computed(() => {
  const last = tended.value.at(-1)
  return last ? `${last.what}, ${last.date}` : 'nothing said'
})
const date = ref(new Date().toLocaleDateString('en-CA'))
const what = ref('')

type Tended = { date: string; what: string }
function save(change: (before: Tended[]) => Tended[]): Promise<boolean> {
  return edits.told(edits.edit((document) => {
    const now = document.machines.find(({ id }) => id === props.machine)
    return now ? { do: 'put machine', machine: { ...now, tended: change(now.tended).sort((a, b) => a.date.localeCompare(b.date)) }, use: false } : null
  }))
}

async function add(): Promise<void> {
  const new_ = { date: date.value, what: what.value.trim() }
  if (new_.what && (await save((before) => [...before, new_]))) what.value = ''
}
</script>

<template>
  <FoldSection v-if="machine" title="Care of the machine" :says="says" name="tended" folded>
    <ul class="days">
      <li v-for="(one, at) in tended" :key="at">{{ one.date }}: {{ one.what }} <ActButton :aria-label="`Forget ${one.what} of ${one.date}`" @click="save((before) => before.filter((_, other) => other !== at))">forget</ActButton></li>
    </ul>
    <DateField v-model="date" label="Day of care" />
    <p class="in-line"><TextInput v-model="what" label="What was done" placeholder="lens cleaned, belt tightened …" :most="80" @keydown.enter="add" /> <ActButton :disabled="!what.trim()" @click="add">Note it</ActButton></p>
    <p class="explain">Readings from before such a day are not counted in with those after it.</p>
  </FoldSection>
</template>

<style scoped>
.days { margin: 0; padding-left: 16px; }
</style>

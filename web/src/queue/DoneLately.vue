<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import GoLink from '../kit/GoLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import { when } from '../projects/listed'

/** What was done, when, and by whom: the operator has no name, nor has who is off the list since. */
type Row = Schemas['DeedShown']
const done = shallowRef<Row[]>([])
const trouble = ref('')

onMounted(async () => {
  const { data, error } = await client.GET('/api/desk/done')
  if (data) done.value = data
  else trouble.value = sentence(error)
})

const SHARED: Record<string, string> = { nobody: 'with nobody', look: 'to look at', copy: 'to look at and copy', work: 'to work on' }
/** What each deed is called, of what it says more of it. */
const CALLED: Record<Row['kind'], (more: string) => string> = {
  step: (more) => more,
  sheet: (more) => more,
  'came in': (more) => `came in from ${more}`,
  left: () => 'left',
  'wrong word': (more) => `a wrong word was tried from ${more}`,
  'word set': () => 'the word was set',
  'put on the list': () => 'put on the list of makers',
  'new word': () => 'given another word',
  'taken off': () => 'taken off the list of makers',
  shared: (more) => `shared ${SHARED[more] ?? more}`,
  given: (more) => (more ? `given to ${more}` : 'given to the workshop'),
  'project deleted': () => 'project deleted',
  'project had back': () => 'project had back',
  'file deleted': (more) => `file deleted, of ${more}`,
  'file had back': (more) => `file had back, of ${more}`,
  'sheet deleted': () => 'deleted from the queue',
  'sheet had back': () => 'had back into the queue',
  'kept for all': (more) => (more ? `kept for everybody, as ${more} proposed` : 'kept for everybody'),
  proposed: () => 'proposed for the library',
  'turned down': (more) => `not taken into the library, as ${more} proposed`,
  'taken away': () => 'taken away',
  'rates set': () => 'rates of the workshop set',
  'checks chosen': () => 'checks by hand chosen',
}

const COLUMNS = [
  { key: 'when', title: 'When', width: 150, text: (row: Row) => when(row.when) },
  { key: 'who', title: 'Who', least: 120, sorts: (row: Row) => row.who, text: (row: Row) => row.who || 'without a name' },
  { key: 'to', title: 'To what', least: 170, sorts: (row: Row) => row.to, text: (row: Row) => row.to },
  { key: 'what', title: 'What', least: 220, sorts: (row: Row) => row.kind, text: (row: Row) => CALLED[row.kind](row.more) },
]
</script>

<template>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <RowsTable label="Done lately" :rows="done" :columns="COLUMNS" empty="Nothing yet.">
    <template #to="{ row }"><GoLink v-if="row.slug && row.kind !== 'project deleted'" :to="`/projects/${row.slug}`">{{ row.to }}</GoLink><template v-else>{{ row.to }}</template></template>
  </RowsTable>
</template>

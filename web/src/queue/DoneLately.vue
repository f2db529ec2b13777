<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import RowsTable from '../kit/RowsTable.vue'
import { when } from '../projects/listed'

/** What was done to all projects, when, and by whom: the operator has no name, nor has who is off the list since. */
type Row = Schemas['StepDone']
const steps = shallowRef<Row[]>([])
const trouble = ref('')

onMounted(async () => {
  const { data, error } = await client.GET('/api/desk/done')
  if (data) steps.value = data
  else trouble.value = sentence(error)
})

const COLUMNS = [
  { key: 'when', title: 'When', width: 150, text: (row: Row) => when(row.when) },
  { key: 'who', title: 'Who', least: 120, sorts: (row: Row) => row.who, text: (row: Row) => row.who || 'without a name' },
  { key: 'project', title: 'Project', least: 150, sorts: (row: Row) => row.project, text: (row: Row) => row.project },
  { key: 'label', title: 'What', least: 220, text: (row: Row) => row.label },
]
</script>

<template>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <RowsTable label="Done lately" :rows="steps" :columns="COLUMNS" empty="Nothing yet." />
</template>

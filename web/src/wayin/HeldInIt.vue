<script setup lang="ts">
import type { Schemas } from '../api/client'
import RowsTable from '../kit/RowsTable.vue'

/** What the file holds, by kind, and what became of each. */
type Held = Schemas['InFileShown']
defineProps<{ held: Held[] }>()
const COLUMNS = [
  { key: 'kind', title: 'In the file', least: 110, text: (one: Held) => `${one.number} ${one.kind}` },
  { key: 'became', title: 'What became of it', least: 160, text: (one: Held) => Object.entries(one.became).map(([what, number]) => `${number} ${what}`).join(', ') },
]
</script>

<template>
  <RowsTable label="What the file holds" :rows="held" :columns="COLUMNS" />
</template>

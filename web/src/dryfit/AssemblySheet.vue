<script setup lang="ts">
import { computed } from 'vue'

import { withUnit } from '../kit/units'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import PaperSheet from '../kit/PaperSheet.vue'
import RowsTable from '../kit/RowsTable.vue'

/** The steps of the assembly with their drawings and the list of parts, to be printed. */
defineProps<{ pages: { text: string; picture: string }[] }>()
const emit = defineEmits<{ close: [] }>()
const workshop = useWorkshop()

interface Row {
  name: string
  count: number
  stock: string
  size: string
}

const parts = computed<Row[]>(() =>
  (workshop.document?.parts ?? []).map((part) => {
    const shown = workshop.shown?.parts.find((p) => p.id === part.id)
    const stock = workshop.document?.stocks.find((s) => s.id === part.stock)
    const size = shown ? `${withUnit(shown.width, workshop.unit)} × ${withUnit(shown.height, workshop.unit)}` : ''
    return { name: part.name, count: part.count, stock: stock?.name ?? '', size }
  }),
)

const COLUMNS = [
  { key: 'name', title: 'Part', text: (row: Row) => row.name },
  { key: 'count', title: 'how many', number: true, width: 100, text: (row: Row) => String(row.count) },
  { key: 'stock', title: 'stock', text: (row: Row) => row.stock },
  { key: 'size', title: 'size', text: (row: Row) => row.size },
]

function print(): void {
  window.print()
}
</script>

<template>
  <PaperSheet :model-value="true" title="Assembly sheet" whole @update:model-value="emit('close')">
    <section class="assembly-sheet">
      <p class="bar"><ActButton look="main" @click="print">Print</ActButton></p>
      <h1>{{ workshop.document?.name }}: putting it together</h1>
      <RowsTable label="Parts to put together" :rows="parts" :columns="COLUMNS" />
      <ol>
        <li v-for="(page, index) in pages" :key="index"><img :src="page.picture" :alt="page.text" /><p>{{ index + 1 < pages.length ? `${index + 1}. ` : '' }}{{ page.text }}</p></li>
      </ol>
    </section>
  </PaperSheet>
</template>

<style>
.assembly-sheet .bar { margin-bottom: 12px; }
.assembly-sheet .rows { max-width: 640px; margin: 10px 0; }
.assembly-sheet ol { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(3, 1fr); gap: 18px; }
.assembly-sheet img { width: 100%; border: 1px solid var(--rule); }
.assembly-sheet li { break-inside: avoid; }
@media print {
  #app, .assembly-sheet .bar, .el-dialog__header { display: none; }
  .el-overlay, .el-overlay-dialog, .el-dialog { position: static; overflow: visible; }
}
</style>

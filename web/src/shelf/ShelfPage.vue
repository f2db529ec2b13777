<script setup lang="ts">
import { onMounted } from 'vue'

import PageHead from '../frame/PageHead.vue'
import ActButton from '../kit/ActButton.vue'
import RowsTable from '../kit/RowsTable.vue'
import OffcutDrawing from './OffcutDrawing.vue'
import { useShelf, type Offcut } from './shelf'

/** The offcuts that are kept, of all stocks. */
const { offcuts, trouble, look, discard } = useShelf()
onMounted(look)

const COLUMNS = [
  { key: 'drawing', title: 'Drawing', width: 130 },
  { key: 'stock', title: 'Stock', least: 160, sorts: (row: Offcut) => row.stock, text: (row: Offcut) => row.stock },
  { key: 'size', title: 'width × height, mm', width: 160, number: true, text: (row: Offcut) => `${row.width.toFixed(0)} × ${row.height.toFixed(0)}` },
  { key: 'since', title: 'since', width: 120, sorts: (row: Offcut) => row.since, text: (row: Offcut) => new Date(row.since).toLocaleDateString('en-GB', { dateStyle: 'medium' }) },
  { key: 'from', title: 'remained of', least: 140, text: (row: Offcut) => row.came_from },
  { key: 'acts', title: 'What to do with it', width: 130 },
]
</script>

<template>
  <main class="shelf">
    <PageHead title="The offcut shelf" />
    <div class="page">
    <p class="explain">What remains of a sheet that was cut comes here, unless it is smaller than 100 cm² or narrower than 40 mm. Take one into a project under Lay out.</p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <RowsTable label="Offcuts" :rows="offcuts" :columns="COLUMNS" empty="Nothing is on the shelf yet: say at Prepare that a sheet was cut, and what remains of it comes here.">
      <template #drawing="{ row }"><OffcutDrawing :offcut="row" :size="104" /></template>
      <template #acts="{ row }"><ActButton :aria-label="`Discard the offcut of ${row.stock}, ${row.width.toFixed(0)} by ${row.height.toFixed(0)}`" @click="discard(row.id)">Discard</ActButton></template>
    </RowsTable>
    </div>
  </main>
</template>

<style scoped>
.page { max-width: 900px; margin: 0 auto; padding: 24px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 16px; }
.explain { color: var(--soft-ink); }
</style>

<script setup lang="ts">
import type { Schemas } from '../api/client'
import FileLink from '../kit/FileLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import { priced } from '../kit/money'

/** What the sheets of each maker take of the machine's day, and what they cost: those that wait, are released, or cut. */
type Row = Schemas['OwnerCost']
const props = defineProps<{ makers: Row[]; money: string }>()
const minutes = (seconds: number): string => (seconds ? `${(seconds / 60).toFixed(1)} min` : '')
/** What is known of it: nothing where no rate is. */
const cost = ({ total, lacking }: Row): string => (total ? `${priced(total, props.money)}${lacking ? ' +' : ''}` : 'no rates')

const COLUMNS = [
  { key: 'owner', title: 'Whose', least: 140, sorts: (row: Row) => row.owner, text: (row: Row) => row.owner },
  { key: 'sheets', title: 'Sheets', width: 80, number: true, sorts: (row: Row) => row.sheets, text: (row: Row) => String(row.sheets) },
  { key: 'cut', title: 'Cut', width: 66, number: true, sorts: (row: Row) => row.cut, text: (row: Row) => String(row.cut) },
  { key: 'left', title: 'Still takes', width: 100, number: true, sorts: (row: Row) => row.seconds_left, text: (row: Row) => minutes(row.seconds_left) },
  { key: 'late', title: 'Late', width: 70, number: true, sorts: (row: Row) => row.late, text: (row: Row) => (row.late ? String(row.late) : '') },
  { key: 'total', title: 'Costs', width: 130, number: true, sorts: (row: Row) => row.total, text: cost },
]
</script>

<template>
  <RowsTable label="What each maker takes" :rows="makers" :columns="COLUMNS" :mark="(row) => (row.late ? 'wrong' : '')" />
  <p><FileLink href="/api/desk/makers.csv">All of it as CSV</FileLink></p>
  <p v-if="makers.some(({ total, lacking }) => total && lacking)" class="soft">+: and what has no rate yet.</p>
</template>

<style scoped>
.soft { color: var(--soft-ink); font-size: 12px; margin: 4px 0 0; }
</style>

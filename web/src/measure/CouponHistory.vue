<script setup lang="ts">
import { computed } from 'vue'

import type { Known } from '../api/client'
import { fine } from '../kit/units'
import { useWorkshop } from '../state/workshop'
import RowsTable from '../kit/RowsTable.vue'

/** The coupons of a stock on a machine, the latest first. */
const props = defineProps<{ known: Known }>()
const workshop = useWorkshop()
const results = computed(() => [...props.known.history].reverse())
type Result = Known['history'][number]
const FIGURES = ['kerf', 'press', 'glue', 'sliding', 'loose'] as const
const columns = computed(() => [
  { key: 'date', title: 'Coupon of', width: 110, text: (row: Result) => row.date },
  ...FIGURES.map((name) => ({ key: name, title: `${name}, ${workshop.unit}`, number: true, width: 100, text: (row: Result) => fine(row[name], workshop.unit) })),
])
</script>

<template>
  <RowsTable v-if="results.length" class="history" label="Coupons of this stock" :rows="results" :columns="columns" />
</template>

<style scoped>
.history { max-width: 760px; margin-top: 10px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Stock } from '../api/client'
import { fine } from '../fields/units'
import { useWorkshop } from '../stores/workshop'

/** The coupons of a stock, the latest first. */
const props = defineProps<{ stock: Stock }>()
const workshop = useWorkshop()
const results = computed(() => [...props.stock.history].reverse())
</script>

<template>
  <table v-if="results.length" class="figures history" aria-label="Coupons of this stock">
    <thead><tr><th>Coupon of</th><th>machine</th><th v-for="name in ['kerf', 'press', 'glue', 'sliding', 'loose']" :key="name" class="number">{{ name }}, {{ workshop.unit }}</th></tr></thead>
    <tbody>
      <tr v-for="(result, index) in results" :key="index">
        <td>{{ result.date }}</td><td>{{ result.machine }}</td>
        <td v-for="name in ['kerf', 'press', 'glue', 'sliding', 'loose'] as const" :key="name" class="number">{{ fine(result[name], workshop.unit) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-else class="explain">No coupon of this stock yet. Kerf and clearances are what was typed.</p>
</template>

<style scoped>
.history { width: auto; margin-top: 10px; }
.history td, .history th { padding-right: 16px; }
.explain { color: var(--soft-ink); font-size: 12px; margin-top: 10px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { PartShown } from '../api/client'
import { INCH } from '../api/tables'
import { plain, withUnit } from '../kit/units'
import { useWorkshop } from '../state/workshop'

/** What follows from a part's outline, as the machine will leave it. */
const props = defineProps<{ shown: PartShown }>()
const workshop = useWorkshop()

const area = computed(() => {
  const square = workshop.unit === 'in' ? props.shown.area / INCH ** 2 : props.shown.area / 100
  return `${square.toFixed(1)} ${workshop.unit === 'in' ? 'in²' : 'cm²'}`
})
const balance = computed(() => `${plain(props.shown.balance_x, workshop.unit)} across, ${withUnit(props.shown.balance_y, workshop.unit)} up`)
</script>

<template>
  <dl class="facts-of-part">
    <dt>Area</dt><dd>{{ area }}</dd>
    <dt>Edge to cut</dt><dd>{{ withUnit(shown.edge_length, workshop.unit) }}</dd>
    <dt>Balances at</dt><dd>{{ balance }}</dd>
    <template v-if="shown.narrowest_web !== null"><dt>Narrowest web</dt><dd>{{ withUnit(shown.narrowest_web, workshop.unit) }}</dd></template>
  </dl>
</template>

<style scoped>
.facts-of-part { display: grid; grid-template-columns: auto 1fr; gap: 1px 12px; margin: 8px 0 0; font-size: 12.5px; }
dt { color: var(--soft-ink); }
dd { margin: 0; text-align: right; }
</style>

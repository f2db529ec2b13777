<script setup lang="ts">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import { useWorkshop } from '../state/workshop'
import type { WayIn } from './look'

/** What of a drawing is taken, on which stock. */
const props = defineProps<{ shown: WayIn; chosen: number[]; stock: string | null; going: boolean }>()
const emit = defineEmits<{ stock: [id: string]; take: [] }>()
const workshop = useWorkshop()
const stocks = computed(() => workshop.document?.stocks ?? [])
const names = computed(() => Object.fromEntries(stocks.value.map((stock) => [stock.id, stock.name])))

const copies = computed(() => props.shown.parts.reduce((sum, part, index) => (!props.chosen.length || props.chosen.includes(index) ? sum + part.count : sum), 0))
const says = computed(() => {
  if (copies.value === 1) return props.chosen.length ? 'Take the chosen part' : 'Take the part'
  return props.chosen.length ? `Take the ${copies.value} chosen parts` : `Take all ${copies.value} parts`
})
</script>

<template>
  <div class="take">
    <ChoiceField label="Cut from" :value="stock" :options="stocks.map((s) => s.id)" :names="names" empty="choose a stock" :save="(id) => emit('stock', id)" />
    <ActButton look="main" :disabled="!copies || !stock || going" @click="emit('take')">{{ says }}</ActButton>
  </div>
</template>

<style scoped>
.take { border-top: 1px solid var(--ink); background: var(--paper); padding: 8px 14px 10px; display: grid; gap: 8px; }
</style>

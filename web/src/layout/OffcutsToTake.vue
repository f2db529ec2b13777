<script setup lang="ts">
import { computed, onMounted } from 'vue'

import type { Stock } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import { withUnit, plain } from '../kit/units'
import OffcutDrawing from '../shelf/OffcutDrawing.vue'
import { useShelf, type Offcut } from '../shelf/shelf'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** Offcuts of a stock that lie on the shelf: those that are taken into the project are laid on first. */
const props = defineProps<{ stock: Stock }>()
const workshop = useWorkshop()
const edits = useEdits()
const { offcuts, look } = useShelf()
onMounted(look)

/** Those of this stock that are not among its sheets yet. */
const free = computed(() => offcuts.value.filter((offcut) => offcut.stock === props.stock.name && !props.stock.sheets.some(({ outline }) => same(offcut, outline))))

function same({ outline }: Offcut, other: { x: number; y: number }[]): boolean {
  return other.length === outline.length && outline.every(({ x, y }, at) => Math.abs(x - (other[at]?.x ?? NaN)) < 1e-3 && Math.abs(y - (other[at]?.y ?? NaN)) < 1e-3)
}

function take({ width, height, outline }: Offcut): void {
  const mm = (value: number): { text: string; unit: 'mm' } => ({ text: value.toFixed(4), unit: 'mm' })
  // It costs nothing any more, so that the nesting takes it before a whole sheet.
  const sheet = { width: mm(width), height: mm(height), at_hand: 1, worth: 0, outline, keep_outs: [] }
  void edits.told(edits.editStock(props.stock.id, ({ sheets }) => ({ sheets: [sheet, ...sheets] })))
}
</script>

<template>
  <p v-for="offcut in free" :key="offcut.id" class="in-line offcut">
    <OffcutDrawing :offcut="offcut" :size="44" />
    {{ plain(offcut.width, workshop.unit) }} × {{ withUnit(offcut.height, workshop.unit) }} on the shelf
    <ActButton @click="take(offcut)">Lay on it first</ActButton>
  </p>
</template>

<style scoped>
.offcut { margin: 4px 0; font-size: 12.5px; }
</style>

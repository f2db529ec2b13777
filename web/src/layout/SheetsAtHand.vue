<script setup lang="ts">
import type { SheetAtHand, Size, Stock } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'
import { useEdits } from '../state/edits'
import KeepOutFields from './KeepOutFields.vue'

/** The sizes of sheet of a stock: how many of each are at hand, what one is worth, and what bars parts of it. */
const props = defineProps<{ stock: Stock }>()
const edits = useEdits()

function changeAll(change: (sheets: SheetAtHand[]) => SheetAtHand[]): Promise<Refusal | null> {
  return edits.editStock(props.stock.id, (stock) => ({ sheets: change(stock.sheets) }))
}

function change(index: number, part: (sheet: SheetAtHand) => Partial<SheetAtHand>): Promise<Refusal | null> {
  return changeAll((sheets) => sheets.map((sheet, at) => (at === index ? { ...sheet, ...part(sheet) } : sheet)))
}

function number(text: string): number | null {
  const value = Number(text)
  return text.trim() && Number.isFinite(value) && value >= 0 ? value : null
}

function setAtHand(index: number, text: string): void {
  const count = number(text)
  void edits.told(change(index, () => ({ at_hand: count === null ? null : Math.min(500, Math.round(count)) })))
}

function setWorth(index: number, text: string): void {
  void edits.told(change(index, () => ({ worth: number(text) })))
}

const mm = (text: string): Size => ({ text, unit: 'mm' })

function addSize(): void {
  const fresh = { width: mm('300'), height: mm('200'), at_hand: 1, worth: null, outline: [], keep_outs: [] }
  void edits.told(changeAll((sheets) => [...sheets, fresh]))
}

function title(sheet: SheetAtHand): string {
  const size = `${sheet.width.text} × ${sheet.height.text}`
  return typeof sheet.at_hand === 'number' ? `${size}, ${sheet.at_hand} at hand` : size
}
</script>

<template>
  <FoldSection v-for="(sheet, index) in stock.sheets" :key="index" :title="title(sheet)" folded>
    <div class="stack" role="group" :aria-label="`Sheet size ${title(sheet)}`">
      <SizeField label="Width" :size="sheet.width" :save="(width) => change(index, () => ({ width }))" />
      <SizeField label="Height" :size="sheet.height" :save="(height) => change(index, () => ({ height }))" />
      <PlainField label="At hand" :value="sheet.at_hand ?? ''" blank="as many as needed" :save="(text) => setAtHand(index, text)" />
      <PlainField label="One is worth" :value="sheet.worth ?? ''" blank="by its area" :save="(text) => setWorth(index, text)" />
      <KeepOutFields :keep-outs="sheet.keep_outs" :save="(to) => change(index, (now) => ({ keep_outs: to(now.keep_outs) }))" />
      <p class="in-line">
        <ActButton v-if="stock.sheets.length > 1" @click="edits.told(changeAll((sheets) => sheets.filter((_, at) => at !== index)))">Remove this size</ActButton>
      </p>
    </div>
  </FoldSection>
  <p v-if="stock.sheets.length < 12" class="more"><ActButton @click="addSize">Add a size or an offcut</ActButton></p>
</template>

<style scoped>
.more { margin: 6px 0 10px; }
</style>

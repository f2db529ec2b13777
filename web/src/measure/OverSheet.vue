<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size, Stock } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import { bareMillimetres, fine } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** The sheet that is cut next, read in five places: what parts measure where they lie on it. */
const props = defineProps<{ stock: Stock; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

/** As one looks at the sheet; shares of its width and height. */
const PLACES = [
  { name: 'Top left', x: 0, y: 1 },
  { name: 'Top right', x: 1, y: 1 },
  { name: 'Bottom left', x: 0, y: 0 },
  { name: 'Bottom right', x: 1, y: 0 },
  { name: 'Middle', x: 0.5, y: 0.5 },
]

const over = computed(() => props.stock.over ?? [])
const own = computed(() => (workshop.document?.parts ?? []).filter((part) => part.thickness?.stock === props.stock.id && part.stock === props.stock.id))
const where = computed(() => props.facts.where)
const says = computed(() => {
  if (own.value.length) return own.value.length === 1 ? 'one part goes by it' : `${own.value.length} parts go by it`
  return over.value.length ? `${over.value.length} of 5 places read` : 'taken as even'
})

function readingAt(x: number, y: number): Size {
  return over.value.find((one) => one.x === x && one.y === y)?.reading ?? { text: '', unit: workshop.unit }
}

/** An empty one is taken out. */
function save(x: number, y: number, reading: Size): Promise<Refusal | null> {
  return edits.editStock(props.stock.id, (stock) => ({
    over: [...(stock.over ?? []).filter((one) => one.x !== x || one.y !== y), ...(reading.text.trim() ? [{ x, y, reading }] : [])],
  }))
}

/** What slots are made for, where it is not what the part measures now that it lies elsewhere. */
function ownOf(id: string): string {
  const size = own.value.find((part) => part.id === id)?.thickness?.size
  const lies = where.value.find(({ part }) => part === id)
  return size && lies && Math.abs(bareMillimetres(size) - lies.mean) > 0.011 ? mm(bareMillimetres(size)) : ''
}

const mm = (value: number): string => fine(value, workshop.unit)
function name(id: string): string {
  return workshop.document?.parts.find((part) => part.id === id)?.name ?? id
}
</script>

<template>
  <FoldSection title="Place by place" :says="says" name="over-sheet" folded>
    <div class="places">
      <SizeField v-for="{ name: called, x, y } in PLACES" :key="called" :label="called" :size="readingAt(x, y)" :save="(size) => save(x, y, size)" small />
    </div>
    <ul v-if="where.length" class="where">
      <li v-for="one in where" :key="one.part">{{ name(one.part) }}: {{ mm(one.mean) }} where it lies<template v-if="one.most - one.least > 0.02">, from {{ mm(one.least) }} to {{ mm(one.most) }}</template><template v-if="ownOf(one.part)">; slots are made for {{ ownOf(one.part) }}</template></li>
    </ul>
    <p class="in-line">
      <ActButton v-if="where.length" @click="edits.change({ do: 'take thickness', stock: stock.id })">Fit slots to where parts lie</ActButton>
      <ActButton v-if="own.length" @click="edits.change({ do: 'take thickness', stock: stock.id, mean: true })">All by the mean again</ActButton>
    </p>
    <p class="explain">Read the sheet that you cut next at its corners and in the middle. Once parts are laid out, each slot is made for what goes into it, as thick as that is there; after another layout fit them again.</p>
  </FoldSection>
</template>

<style scoped>
.places { display: grid; grid-template-columns: 1fr 1fr; gap: 4px 16px; }
.where { margin: 6px 0 0; padding-left: 16px; }
</style>

<script setup lang="ts">
import { computed, onMounted, shallowRef } from 'vue'

import { client, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import PaperSheet from '../kit/PaperSheet.vue'
import RowsTable from '../kit/RowsTable.vue'
import { priced } from '../kit/money'
import TickField from '../kit/TickField.vue'
import { withUnit } from '../kit/units'
import { tint } from '../look/tint'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** Every copy that is cut, with its picture, to be ticked off when it is gathered; to be printed. */
const emit = defineEmits<{ close: [] }>()
const workshop = useWorkshop()
const edits = useEdits()

interface Row {
  id: string
  number: number
  name: string
  size: string
  stock: string
  sheet: string
  path: string
  box: string
  fill: string
  gathered: boolean
}

const rows = computed<Row[]>(() => {
  const document = workshop.document
  if (!document) return []
  const gathered = new Set(document.preparation.gathered.map((copy) => `${copy.part}#${copy.copy_number}`))
  return document.parts.flatMap((part) => {
    const shown = workshop.shown?.parts.find(({ id }) => id === part.id)
    const stock = document.stocks.find(({ id }) => id === part.stock)
    if (!shown) return []
    const { left, bottom, right, top } = shown.bounds
    const reach = Math.max(right - left, top - bottom)
    return Array.from({ length: part.count }, (_, at) => {
      const lies = document.layout.placements.find((p) => p.part === part.id && p.copy_number === at + 1)
      return {
        id: part.id,
        number: at + 1,
        name: part.count > 1 ? `${part.name} ${at + 1}` : part.name,
        size: `${withUnit(right - left, workshop.unit)} × ${withUnit(top - bottom, workshop.unit)}`,
        stock: stock?.name ?? '',
        sheet: lies ? String(lies.sheet + 1) : 'none',
        path: shown.path,
        box: `${(left + right - reach) / 2} ${-(bottom + top + reach) / 2} ${reach} ${reach}`,
        fill: tint(stock),
        gathered: gathered.has(`${part.id}#${at + 1}`),
      }
    })
  })
})

const found = computed(() => rows.value.filter(({ gathered }) => gathered).length)

/** What one of each part costs by itself, where the workshop has rates. */
const cost = shallowRef<Schemas['Cost'] | null>(null)
onMounted(async () => {
  const { data } = await client.GET('/api/projects/{slug}/costs', { params: { path: { slug: workshop.shown?.slug ?? '' } } })
  if (data?.total) cost.value = data
})
const each = computed(() => new Map(cost.value?.parts.map((part) => [part.part, part.each])))

const COLUMNS = computed(() => [
  { key: 'tick', title: 'gathered', width: 80 },
  { key: 'picture', title: 'picture', width: 64 },
  { key: 'name', title: 'Part', sorts: (row: Row) => row.name, text: (row: Row) => row.name },
  { key: 'size', title: 'size', text: (row: Row) => row.size },
  { key: 'stock', title: 'stock', text: (row: Row) => row.stock },
  { key: 'sheet', title: 'sheet', width: 70, number: true, text: (row: Row) => row.sheet },
  ...(cost.value ? [{ key: 'cost', title: `costs${cost.value.money ? `, ${cost.value.money}` : ''}`, width: 90, number: true, text: (row: Row) => each.value.get(row.id)?.toFixed(2) ?? '' }] : []),
])

function tick({ id, number }: Row, on: boolean): void {
  void edits.told(
    edits.edit(({ preparation }) => {
      const others = preparation.gathered.filter((copy) => copy.part !== id || copy.copy_number !== number)
      const gathered = on ? [...others, { part: id, copy_number: number }] : others
      return { do: 'set preparation', preparation: { ...preparation, gathered } }
    }),
  )
}

function print(): void {
  window.print()
}
</script>

<template>
  <PaperSheet :model-value="true" title="Cut list" whole @update:model-value="emit('close')">
    <section class="cut-list printed">
      <p class="bar"><ActButton look="main" @click="print">Print</ActButton></p>
      <h1>{{ workshop.document?.name }}: parts to gather</h1>
      <p role="status">{{ found }} of {{ rows.length }} gathered.</p>
      <p v-if="cost">All of it costs {{ priced(cost.total, cost.money) }} with what is done once and by the sheet{{ cost.lacking ? `; ${cost.lacking} things that it takes have no rate` : '' }}.</p>
      <RowsTable label="Parts to gather" :rows="rows" :columns="COLUMNS" empty="There is no part yet.">
        <template #tick="{ row }"><TickField :value="row.gathered" :label="`${row.name} is gathered`" :save="(on) => tick(row, on)" /></template>
        <template #picture="{ row }"><svg width="46" height="34" :viewBox="row.box" aria-hidden="true"><path :d="row.path" :fill="row.fill" fill-rule="evenodd" stroke="#1c1914" stroke-width="1" vector-effect="non-scaling-stroke" /></svg></template>
      </RowsTable>
    </section>
  </PaperSheet>
</template>

<style>
.printed .bar { margin-bottom: 12px; }
.cut-list .rows { max-width: 860px; margin: 10px 0; }
@media print {
  #app, .printed .bar, .el-dialog__header { display: none; }
  .el-overlay, .el-overlay-dialog, .el-dialog { position: static; overflow: visible; }
}
</style>

<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FileField from '../kit/FileField.vue'
import FileLink from '../kit/FileLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import { priced } from '../kit/money'
import { sendFile, useCatalogue } from './service'

/** The counter of the simulated cutting service: files are taken in, orders go their way, days go by. */
const router = useRouter()
const { catalogue, money } = useCatalogue()
const orders = shallowRef<Schemas['OrdersShown'] | null>(null)
const files = shallowRef<Schemas['WaitingFile'][]>([])
const trouble = ref('')
const busy = ref(false)

async function look(): Promise<void> {
  const { data, error } = await client.GET('/api/service/orders')
  if (data) orders.value = data
  else trouble.value = sentence(error)
  files.value = (await client.GET('/api/service/files')).data ?? []
}
onMounted(look)

async function take(file: File): Promise<void> {
  trouble.value = ''
  busy.value = true
  try {
    const enquiry = await sendFile(file)
    await router.push(`/service/${enquiry.id}`)
  } catch (error) {
    trouble.value = sentence(error)
  } finally {
    busy.value = false
  }
}

async function nextDay(): Promise<void> {
  const { data, error } = await client.POST('/api/service/next-day')
  if (data) orders.value = data
  else trouble.value = sentence(error)
}

type Order = Schemas['OrderShown']
const COLUMNS = [
  { key: 'id', title: 'Order', width: 80, number: true, sorts: (row: Order) => row.id, text: (row: Order) => String(row.id) },
  { key: 'name', title: 'File', least: 160, text: (row: Order) => row.name },
  { key: 'what', title: 'What', least: 190, text: (row: Order) => row.what },
  { key: 'total', title: 'Price', width: 100, number: true, sorts: (row: Order) => row.quote.total, text: (row: Order) => priced(row.quote.total, money.value) },
  { key: 'state', title: 'Where it stands', least: 150, text: (row: Order) => row.progress.state },
  { key: 'arrives', title: 'Arrives on day', width: 120, number: true, text: (row: Order) => (row.progress.state === 'sent back' ? '' : String(row.progress.arrives)) },
]

/** Files that nobody has ordered yet, and those that were deleted. */
type Waiting = Schemas['WaitingFile']
const day = (moment: string): string => new Date(moment).toLocaleDateString('en-GB', { dateStyle: 'medium' })
const FILES = [
  { key: 'name', title: 'File', least: 200, text: (row: Waiting) => row.name },
  { key: 'created', title: 'Sent', width: 130, sorts: (row: Waiting) => row.created, text: (row: Waiting) => day(row.created) },
  { key: 'stands', title: 'Where it stands', least: 240, text: (row: Waiting) => (row.until ? `deleted; can be had back until ${day(row.until)}` : 'not ordered') },
]

const sheets = computed(() =>
  (catalogue.value?.stocks ?? []).flatMap((stock) => stock.offers.map((offer) => ({ stock: stock.name, ...offer }))),
)
type Row = (typeof sheets.value)[number]
const SHEETS = [
  { key: 'stock', title: 'Material', least: 150, text: (row: Row) => row.stock },
  { key: 'thickness', title: 'measures, mm', width: 110, number: true, text: (row: Row) => row.thickness.toFixed(1) },
  { key: 'size', title: 'sheet, mm', width: 120, number: true, text: (row: Row) => `${row.width} × ${row.height}` },
  { key: 'hole', title: 'smallest hole', width: 110, number: true, text: (row: Row) => row.smallest_hole.toFixed(1) },
  { key: 'web', title: 'narrowest web', width: 115, number: true, text: (row: Row) => row.smallest_web.toFixed(1) },
  { key: 'bends', title: 'bent at', least: 170, text: (row: Row) => (row.bends ? `R ${row.bends.radius}, leg ${row.bends.least_flange} or more` : 'not bent') },
  { key: 'days', title: 'days', width: 70, number: true, text: (row: Row) => String(row.days) },
]
</script>

<template>
  <main class="service">
    <PageHead :title="`${catalogue?.name ?? 'A cutting service'}, simulated`" />
    <div class="page">
    <p class="explain">{{ catalogue?.says }}</p>
    <FileField label="Send a file to be cut (DXF, SVG, or a ZIP of them)" accept=".dxf,.svg,.zip" :take="take" />
    <p v-if="busy" role="status">Reading the file …</p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <h2>Orders</h2>
    <p class="in-line"><span>It is day {{ orders?.today ?? '…' }} there.</span> <ActButton look="ink" @click="nextDay">Let a day go by</ActButton></p>
    <RowsTable label="Orders" :rows="orders?.orders ?? []" :columns="COLUMNS" empty="Nothing has been ordered." :choose="(row) => void router.push(`/service/${row.enquiry}`)" />
    <p v-for="order in (orders?.orders ?? []).filter((one) => one.progress.why)" :key="order.id" class="why">Order {{ order.id }} was sent back: {{ order.progress.why }}</p>
    <template v-if="files.length">
      <h2>Files that wait</h2>
      <RowsTable label="Files" :rows="files" :columns="FILES" empty="" :choose="(row) => void router.push(`/service/${row.id}`)" />
    </template>
    <h2>Sheets that there are</h2>
    <RowsTable label="Sheets" :rows="sheets" :columns="SHEETS" empty="" />
    <p><FileLink href="/api/service/openapi.json">its calls (OpenAPI)</FileLink></p>
    </div>
  </main>
</template>

<style scoped>
.page { max-width: 960px; margin: 0 auto; padding: 24px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 12px; }
.explain { color: var(--soft-ink); }
</style>

<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import GoLink from '../kit/GoLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import { priced } from '../kit/money'
import { useCatalogue } from '../service/service'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** What a cutting service would make of the project: held against its catalogue, made for it, sent, and what was. */
const workshop = useWorkshop()
const edits = useEdits()
const picked = useChoice()
const router = useRouter()
const { catalogue } = useCatalogue()
const offered = ref('')
const thickness = ref(0)
const rows = shallowRef<Schemas['Compared'][]>([])
const sent = shallowRef<Schemas['SentShown'][]>([])
const trouble = ref('')
const busy = ref(false)

type Row = Schemas['Compared']
const COLUMNS = [
  { key: 'what', title: 'what', least: 96, text: (row: Row) => (row.part ? `${row.what} of ${row.part}` : row.what) },
  { key: 'ours', title: 'ours', width: 84, number: true, text: (row: Row) => row.ours },
  { key: 'theirs', title: 'theirs', width: 90, number: true, text: (row: Row) => row.theirs },
]

const slug = computed(() => workshop.shown?.slug ?? '')
const sheet = computed(() => workshop.document?.layout.sheets[picked.sheet])
const stock = computed(() => workshop.document?.stocks.find(({ id }) => id === sheet.value?.stock))
const offers = computed(() => catalogue.value?.stocks.find(({ id }) => id === offered.value)?.offers ?? [])
const differs = computed(() => rows.value.some((row) => !row.fits && ['thickness', 'kerf', 'bend radius'].includes(row.what)))

watch([catalogue, stock], () => {
  if (offered.value || !catalogue.value || !stock.value) return
  offered.value = catalogue.value.stocks.find(({ material }) => material === stock.value?.material)?.id ?? ''
  nearest()
})

/** The thickness that comes nearest to the one in hand. */
function nearest(): void {
  const here = workshop.shown?.stocks[stock.value?.id ?? '']?.thickness ?? 0
  const [first] = [...offers.value].sort((a, b) => Math.abs(a.thickness - here) - Math.abs(b.thickness - here))
  thickness.value = first?.thickness ?? 0
}

/** Holds it anew. What is shown stays until the answer is there, and an answer to what was asked before is left. */
let asked = 0
async function hold(): Promise<void> {
  const turn = (asked += 1)
  if (!stock.value || !thickness.value) return
  const body = { stock: stock.value.id, offered: offered.value, thickness: thickness.value }
  const { data, error } = await client.POST('/api/projects/{slug}/service/against', { params: { path: { slug: slug.value } }, body })
  if (turn !== asked) return
  rows.value = data?.rows ?? []
  trouble.value = data ? '' : sentence(error)
}
watch(() => [offered.value, thickness.value, stock.value?.id, workshop.shown?.version], hold)

async function look(): Promise<void> {
  const { data } = await client.GET('/api/projects/{slug}/service/sent', { params: { path: { slug: slug.value } } })
  sent.value = data ?? []
}
onMounted(look)
watch(slug, look)

async function makeVariant(): Promise<void> {
  if (!stock.value) return
  const body = { stock: stock.value.id, offered: offered.value, thickness: thickness.value }
  const { data, error } = await edits.inTurn(() => client.POST('/api/projects/{slug}/service/variant', { params: { path: { slug: slug.value } }, body }))
  trouble.value = data ? '' : sentence(error)
  if (data) await router.push(`/projects/${data.slug}/lay-out`)
}

async function send(number: number): Promise<void> {
  busy.value = true
  const { data, error } = await edits.inTurn(() => client.POST('/api/projects/{slug}/service/send', { params: { path: { slug: slug.value }, query: { sheet: number } } }))
  busy.value = false
  trouble.value = data ? '' : sentence(error)
  if (data) await router.push(`/service/${data.number}`)
}
</script>

<template>
  <div class="stack">
    <ChoiceField label="From them" :value="offered || null" empty="a material" :options="catalogue?.stocks.map(({ id }) => id) ?? []" :names="Object.fromEntries(catalogue?.stocks.map(({ id, name }) => [id, name]) ?? [])" :save="(id) => { offered = id; nearest() }" />
    <ChoiceField v-if="offered" label="as it measures there" :value="thickness || null" empty="a thickness" :options="offers.map((one) => one.thickness)" :names="Object.fromEntries(offers.map((one) => [one.thickness, `${one.thickness} mm`]))" :save="(mm) => { thickness = mm }" />
  </div>
  <RowsTable v-if="rows.length" label="Held against their catalogue" :rows="rows" :columns="COLUMNS" :mark="(row) => (row.fits ? '' : 'wrong')" />
  <p v-if="differs"><ActButton look="ink" @click="makeVariant">Make a variant for their sheet</ActButton></p>
  <p class="in-line"><ActButton look="ink" :disabled="busy || !sheet" @click="send(picked.sheet + 1)">{{ busy ? 'Proving and sending …' : `Send sheet ${picked.sheet + 1}` }}</ActButton>
    <ActButton v-if="(workshop.shown?.sheets.length ?? 0) > 1" :disabled="busy" @click="send(0)">Send all sheets</ActButton></p>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <ul v-if="sent.length" class="sent" aria-label="What was sent">
    <li v-for="one in sent" :key="one.number"><GoLink :to="`/service/${one.number}`">{{ one.name }}</GoLink>, version {{ one.version }}, {{ new Date(one.created).toLocaleDateString('en-GB', { dateStyle: 'medium' }) }}: {{ one.order ? `order ${one.order}, ` : '' }}{{ one.state }}{{ one.price === null ? '' : `, ${priced(one.price, one.money)}` }}<template v-if="one.why">. {{ one.why }}</template></li>
  </ul>
</template>

<style scoped>
:deep(.wrong) { color: var(--wrong); }
:deep(.el-table .cell.el-tooltip) { white-space: normal; overflow-wrap: anywhere; }
.sent { margin: 6px 0; padding-left: 16px; font-size: 12.5px; }
</style>

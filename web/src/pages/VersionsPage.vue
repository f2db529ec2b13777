<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PageHead from '../frame/PageHead.vue'
import GoLink from '../kit/GoLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import TextInput from '../kit/TextInput.vue'
import { priced } from '../kit/money'
import { longWay } from '../kit/units'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** States of a project that were given a name, what is different between two of them, and its variants. */
const route = useRoute()
const router = useRouter()
const workshop = useWorkshop()
const edits = useEdits()
const slug = computed(() => String(route.params.slug))
const versions = ref<Schemas['VersionShown'][]>([])
const variants = ref<Schemas['VariantRow'][]>([])
const compared = ref<Schemas['Comparison'] | null>(null)
const before = ref(0)
const after = ref(0)
const name = ref('')
const variant = ref('')
const trouble = ref('')

async function asked<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T | null> {
  trouble.value = ''
  try {
    const { data, error, response } = await call
    if (response.ok) return data ?? null
    throw error
  } catch (error) {
    trouble.value = sentence(error)
    return null
  }
}

const at = computed(() => ({ params: { path: { slug: slug.value } } }))

async function list(): Promise<void> {
  await workshop.open(slug.value)
  versions.value = (await asked(client.GET('/api/projects/{slug}/versions', at.value))) ?? []
  before.value = versions.value[0]?.id ?? 0
  variants.value = (await asked(client.GET('/api/projects/{slug}/variants', at.value))) ?? []
}
// What was typed before this page was opened is stored first.
onMounted(() => void edits.inTurn(list))
watch(slug, () => void edits.inTurn(list))

async function compare(): Promise<void> {
  compared.value = before.value === after.value ? null : await asked(client.GET('/api/projects/{slug}/compared', { params: { path: { slug: slug.value }, query: { before: before.value, after: after.value } } }))
}
watch([before, after, versions], compare)

async function keep(): Promise<void> {
  if (!name.value.trim()) {
    trouble.value = 'Give the version a name first, such as “five millimetre card”.'
    return
  }
  if (await asked(edits.inTurn(() => client.POST('/api/projects/{slug}/versions', { ...at.value, body: { name: name.value.trim() } })))) name.value = ''
  await list()
}

async function back(id: number): Promise<void> {
  const body = { version: workshop.shown?.version ?? 0 }
  if (await asked(edits.inTurn(() => client.POST('/api/projects/{slug}/versions/{version_id}/back', { params: { path: { slug: slug.value, version_id: id } }, body })))) void router.push(`/projects/${slug.value}/shape`)
}

async function forget(id: number): Promise<void> {
  await asked(client.DELETE('/api/projects/{slug}/versions/{version_id}', { params: { path: { slug: slug.value, version_id: id } } }))
  await list()
}

async function begin(): Promise<void> {
  if (!variant.value.trim()) {
    trouble.value = 'Give the variant a name first, such as “Tray of five millimetre card”.'
    return
  }
  const made = await asked(edits.inTurn(() => client.POST('/api/projects/{slug}/variants', { ...at.value, body: { name: variant.value.trim() } })))
  if (made) void router.push(`/projects/${made.slug}/measure`)
}

async function duplicate(): Promise<void> {
  const made = await asked(edits.inTurn(() => client.POST('/api/projects/{slug}/duplicate', at.value)))
  if (made) void router.push(`/projects/${made.slug}/shape`)
}

const names = computed<Record<number, string>>(() => ({ 0: 'as it stands now', ...Object.fromEntries(versions.value.map((v) => [v.id, v.name])) }))
const ids = computed(() => [0, ...versions.value.map((v) => v.id)])
const isVariant = computed(() => Boolean(workshop.shown?.variant_of))

type Row = Schemas['VariantRow']
const COLUMNS = [
  { key: 'name', title: 'Design and variants', least: 180 },
  { key: 'thickness', title: 'Thickness, mm', width: 130, text: (row: Row) => row.thickness },
  { key: 'parts', title: 'Parts', number: true, width: 70, text: (row: Row) => String(row.parts) },
  { key: 'sheets', title: 'Sheets', number: true, width: 80, text: (row: Row) => (row.sheets ? String(row.sheets) : 'not laid out') },
  { key: 'cut', title: 'To cut', number: true, width: 110, text: (row: Row) => longWay(row.cut_length, workshop.unit) },
  { key: 'time', title: 'Time', number: true, width: 100, text: (row: Row) => (row.seconds === null ? 'not known' : `${Math.floor(row.seconds / 60)} min ${Math.round(row.seconds % 60)} s`) },
  { key: 'cost', title: 'Cost', number: true, width: 100, text: (row: Row) => (row.cost === null ? 'not known' : priced(row.cost, row.money)) },
  { key: 'findings', title: 'Notes', number: true, width: 150, text: (row: Row) => `${row.errors} errors, ${row.warnings} warnings` },
  { key: 'own', title: 'Its own', least: 140, text: (row: Row) => row.own.join(', ') || (row.design ? '' : 'nothing yet') },
]

type Told = Schemas['DifferenceShown']
const TOLD = [
  { key: 'where', title: 'Where', least: 170, text: (row: Told) => row.where },
  { key: 'before', title: 'It was', width: 150, text: (row: Told) => row.before || 'not there' },
  { key: 'after', title: 'and is', width: 150, text: (row: Told) => row.after || 'gone' },
]

function box({ left, bottom, right, top }: Schemas['BoxShown']): string {
  const edge = Math.max(right - left, top - bottom) * 0.04
  return `${left - edge} ${-top - edge} ${right - left + 2 * edge} ${top - bottom + 2 * edge}`
}

function when(date: string): string {
  return new Date(date).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
}
</script>

<template>
  <main class="versions">
    <PageHead :title="`Versions and variants of ${workshop.document?.name ?? '…'}`" :back-to="`/projects/${slug}/shape`" back="Back to it">
      <ActButton @click="duplicate">Duplicate the project</ActButton>
    </PageHead>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <div class="page">
      <section aria-label="Versions">
        <h2>Versions</h2>
        <p class="explain">The project as it stood, under a name. Going back to one is a step like any other: nothing is lost by it.</p>
        <p class="in-line new">
          <TextInput v-model="name" label="Name of the version" placeholder="its name" :most="80" @keydown.enter="keep" />
          <ActButton look="main" @click="keep">Keep it as it stands</ActButton>
        </p>
        <ol class="kept">
          <li v-for="version in versions" :key="version.id">
            <p class="title"><strong>{{ version.name }}</strong> <span class="soft">{{ when(version.created) }}, {{ version.count }} parts</span></p>
            <p class="drawn" aria-hidden="true">
              <svg v-for="part in version.parts" :key="part.id" :viewBox="box(part.box)" height="44" :width="Math.min(120, (44 * (part.box.right - part.box.left)) / (part.box.top - part.box.bottom))"><path :d="part.path" fill-rule="evenodd" vector-effect="non-scaling-stroke" /><path v-if="part.pockets" class="pocket" :d="part.pockets" fill-rule="evenodd" vector-effect="non-scaling-stroke" /></svg>
            </p>
            <p class="in-line">
              <ActButton :aria-label="`Go back to it: ${version.name}`" @click="back(version.id)">Go back to it</ActButton>
              <ActButton :aria-label="`Compare with now: ${version.name}`" @click="before = version.id; after = 0">Compare with now</ActButton>
              <ActButton :aria-label="`Forget it: ${version.name}`" @click="forget(version.id)">Forget it</ActButton>
            </p>
          </li>
        </ol>
        <p v-if="!versions.length" class="soft">No version is kept yet.</p>
      </section>
      <section v-if="versions.length" aria-label="What is different">
        <h2>What is different</h2>
        <ChoiceField label="From" :value="before" :options="ids" :names="names" :save="(id) => { before = id }" />
        <ChoiceField label="to" :value="after" :options="ids" :names="names" :save="(id) => { after = id }" />
        <template v-if="compared">
          <p v-if="!compared.differences.length" class="soft">Nothing is different.</p>
          <RowsTable v-else label="What is different" :rows="compared.differences" :columns="TOLD" />
          <div class="over">
            <figure v-for="part in compared.parts" :key="part.id">
              <svg :viewBox="box(part.box)" width="250" height="150" role="img" :aria-label="`${part.name}, as it was and as it is`">
                <path class="was" :d="part.before" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
                <path class="is" :d="part.after" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
              </svg>
              <figcaption>{{ part.name }}: {{ !part.before ? 'new' : !part.after ? 'gone' : 'as it was, dashed; as it is, drawn out' }}</figcaption>
            </figure>
          </div>
        </template>
        <p v-else class="soft">Choose two different ones.</p>
      </section>
    </div>
    <section class="variants" aria-label="Variants">
      <h2>Variants</h2>
      <p class="explain">The same design for another stock, or other values of its named sizes. A change of the design reaches all of them; each has its own layout and files.</p>
      <RowsTable v-if="variants.length" label="Variants" :rows="variants" :columns="COLUMNS">
        <template #name="{ row }"><GoLink :to="`/projects/${row.slug}/shape`">{{ row.name }}</GoLink>{{ row.design ? ', the design' : '' }}</template>
      </RowsTable>
      <p v-if="!isVariant" class="in-line new">
        <TextInput v-model="variant" label="Name of the variant" placeholder="its name" :most="80" @keydown.enter="begin" />
        <ActButton look="ink" @click="begin">Begin a variant</ActButton>
      </p>
    </section>
  </main>
</template>

<style scoped>
.versions { height: var(--page); overflow-y: auto; background: var(--ground); }
.page { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); }
section { padding: 14px 18px; display: grid; gap: 8px; align-content: start; }
.page section + section { border-left: 1px solid var(--rule); }
.variants { border-top: 1px solid var(--ink); }
.explain, .soft { color: var(--soft-ink); font-size: 12.5px; max-width: 620px; }
.new .text-input { width: 260px; }
.kept { list-style: none; margin: 0; padding: 0; display: grid; }
.kept li { border-top: 1px solid var(--rule); padding: 8px 0; display: grid; gap: 5px; }
.drawn { display: flex; gap: 8px; align-items: end; overflow: hidden; }
.drawn path { fill: #e4cf9c; stroke: var(--ink); stroke-width: 0.8; }
.drawn .pocket { fill: rgb(28 36 51 / 16%); }
.over { display: flex; flex-wrap: wrap; gap: 14px; }
figure { margin: 0; }
figcaption { font-size: 11.5px; color: var(--soft-ink); max-width: 250px; }
.was { fill: none; stroke: var(--wrong); stroke-width: 1.2; stroke-dasharray: 5 3; }
.is { fill: rgb(23 63 143 / 6%); stroke: var(--accent); stroke-width: 1.4; }
.why { margin: 10px 18px; }
</style>

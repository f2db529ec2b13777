<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import { onDropped } from '../kit/dropped'
import FileField from '../kit/FileField.vue'
import FileLink from '../kit/FileLink.vue'
import PickFile from '../kit/PickFile.vue'
import GoLink from '../kit/GoLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import { useWorkshop } from '../state/workshop'
import { DRAWINGS, useBring } from '../wayin/bring'

/** The drawings that were brought into a project, kept as they were; and the next one. */
const route = useRoute()
const workshop = useWorkshop()
const { bring, again } = useBring()
const slug = String(route.params.slug)
const files = ref<Schemas['BroughtListed'][] | null>(null)
const trouble = ref('')
const reading = ref('')

onMounted(async () => {
  await workshop.open(slug)
  await list()
})

async function list(): Promise<void> {
  const { data, error } = await client.GET('/api/projects/{slug}/brought', { params: { path: { slug } } })
  if (data) files.value = data
  else trouble.value = sentence(error)
}
const there = computed(() => files.value?.filter((file) => !file.deleted) ?? [])
const deleted = computed(() => files.value?.filter((file) => file.deleted) ?? [])

async function remove(id: number): Promise<void> {
  const { error } = await client.DELETE('/api/brought/{file_id}', { params: { path: { file_id: id } } })
  await list()
  trouble.value = error ? sentence(error) : ''
}

async function haveBack(id: number): Promise<void> {
  const { error } = await client.POST('/api/brought/{file_id}/restore', { params: { path: { file_id: id } } })
  await list()
  trouble.value = error ? sentence(error) : ''
}

function take(chosen: File[]): Promise<void> {
  return read(chosen, () => bring(chosen, slug))
}

async function read(chosen: File[], act: () => Promise<void>): Promise<void> {
  trouble.value = ''
  reading.value = chosen.map((file) => file.name).join(', ')
  try {
    await act()
  } catch (error) {
    trouble.value = sentence(error)
  } finally {
    reading.value = ''
  }
}
onDropped((dropped) => void take(dropped))

const COLUMNS = [
  { key: 'name', title: 'File', least: 260 },
  { key: 'created', title: 'Brought', width: 170, text: (row: Schemas['BroughtListed']) => new Date(row.created).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }) },
  { key: 'state', title: 'State', width: 150, text: (row: Schemas['BroughtListed']) => [row.is_taken ? 'taken' : 'not taken yet', row.earlier && `newer than ${row.earlier}`].filter(Boolean).join(', ') },
  { key: 'acts', title: 'What to do with it', width: 330 },
]
</script>

<template>
  <main class="brought">
    <h1>Way in{{ workshop.document ? ` to ${workshop.document.name}` : '' }}</h1>
    <p class="lead">A drawing that somebody made: its size is checked, its faults are mended, and what you choose of it becomes parts.</p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <FileField label="Bring a drawing (SVG, DXF) or a mesh (STL, OBJ, PLY, 3MF, GLB)" :accept="DRAWINGS" :take="(file) => take([file])" />
    <p v-if="reading" role="status">Reading {{ reading }} …</p>
    <RowsTable v-if="there.length" label="Drawings that were brought" :rows="there" :columns="COLUMNS">
      <template #name="{ row }"><GoLink :to="`/projects/${slug}/way-in/${row.id}`">{{ row.name }}</GoLink></template>
      <template #acts="{ row }"><span class="in-line acts"><FileLink :href="`/api/brought/${row.id}/file`" :aria-label="`Save the file: ${row.name}`">Save the file</FileLink> <PickFile :of="row.name" :accept="DRAWINGS" :take="(file) => read([file], () => again(file, slug, row.id))">Bring a newer one</PickFile> <ActButton :aria-label="`Delete the file: ${row.name}`" @click="remove(row.id)">Delete</ActButton></span></template>
    </RowsTable>
    <section v-if="deleted.length" aria-labelledby="deleted">
      <h2 id="deleted">Deleted</h2>
      <ul class="deleted">
        <li v-for="file in deleted" :key="file.id" class="in-line acts">{{ file.name }} <ActButton :aria-label="`Have it back: ${file.name}`" @click="haveBack(file.id)">Have it back</ActButton></li>
      </ul>
      <p class="soft">Kept for 30 days. Parts that were taken from a file stay as they are.</p>
    </section>
    <p><GoLink :to="`/projects/${slug}/shape`">Back to the project</GoLink></p>
  </main>
</template>

<style scoped>
.brought { max-width: 900px; margin: 0 auto; padding: 48px 24px; display: grid; gap: 18px; }
.deleted { list-style: none; margin: 6px 0; padding: 0; }
.acts { gap: 14px; }
.soft { color: var(--soft-ink); }
.lead { color: var(--soft-ink); margin: -10px 0 0; }
</style>

<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import { checkSize } from '../api/limits'
import { away, reach } from '../api/reach'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import RowsTable from '../kit/RowsTable.vue'
import TextInput from '../kit/TextInput.vue'
import { onDropped } from '../kit/dropped'
import FileField from '../kit/FileField.vue'
import FileLink from '../kit/FileLink.vue'
import { DRAWINGS, useBring } from '../wayin/bring'

const router = useRouter()
const projects = ref<Schemas['ProjectListed'][] | null>(null)
const deleted = ref<Schemas['DeletedListed'][]>([])
const name = ref('')
const trouble = ref('')

/** Asks for both lists: what cannot be told is said, and never shown as if there were nothing. */
async function list(): Promise<void> {
  const [present, gone] = await Promise.all([client.GET('/api/projects'), client.GET('/api/deleted')])
  if (present.data) projects.value = present.data
  else trouble.value = sentence(present.error)
  if (gone.data) deleted.value = gone.data
  else trouble.value = sentence(gone.error)
}
onMounted(list)
watch(away, (gone) => {
  if (gone) return
  trouble.value = ''
  void list()
})

/** Carries out a call and says why where it was refused; answers what it gave. */
async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T | null> {
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

async function create(): Promise<void> {
  if (!name.value.trim()) {
    trouble.value = 'Give the project a name first.'
    return
  }
  const made = await ask(client.POST('/api/projects', { body: { name: name.value.trim() } }))
  if (made) void router.push(`/projects/${made.slug}/${made.document.stocks.length ? 'shape' : 'measure'}`)
}

async function open(file: File): Promise<void> {
  trouble.value = ''
  try {
    await checkSize(file, 'project_file')
    const answer = await reach('/api/projects/open', { method: 'POST', body: file })
    const told = (await answer.json()) as Schemas['ProjectShown'] & { message?: string }
    if (!answer.ok) throw told
    void router.push(`/projects/${told.slug}/shape`)
  } catch (error) {
    trouble.value = sentence(error)
  }
}

const { bring } = useBring()
const reading = ref('')

async function take(file: File): Promise<void> {
  trouble.value = ''
  reading.value = file.name
  try {
    await bring([file], null)
  } catch (error) {
    trouble.value = sentence(error)
  } finally {
    reading.value = ''
  }
}

/** What is dropped anywhere is opened as what it is. */
onDropped(([file]) => {
  if (file) void (file.name.endsWith('.json') ? open(file) : take(file))
})

async function remove(slug: string): Promise<void> {
  await ask(client.DELETE('/api/projects/{slug}', { params: { path: { slug } } }))
  await list()
}

async function duplicate(slug: string): Promise<void> {
  await ask(client.POST('/api/projects/{slug}/duplicate', { params: { path: { slug } } }))
  await list()
}

async function restore(slug: string): Promise<void> {
  await ask(client.POST('/api/deleted/{slug}/restore', { params: { path: { slug } } }))
  await list()
}

async function recover(slug: string): Promise<void> {
  const found = await ask(client.POST('/api/projects/{slug}/recover', { params: { path: { slug } } }))
  if (found) void router.push(`/projects/${slug}/shape`)
}

type Listed = Schemas['ProjectListed']
const COLUMNS = [
  { key: 'name', title: 'Project', least: 260, sorts: (row: Listed) => row.name },
  { key: 'parts', title: 'Parts', number: true, width: 90, text: (row: Listed) => String(row.parts ?? 'not known') },
  { key: 'changed', title: 'Changed', width: 160, sorts: (row: Listed) => row.changed, text: (row: Listed) => when(row.changed) },
  { key: 'acts', title: 'What to do with it', width: 220 },
]

function when(date: string): string {
  return new Date(date).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
}

function day(date: string): string {
  return new Date(date).toLocaleDateString('en-GB', { dateStyle: 'medium' })
}
</script>

<template>
  <main class="projects">
    <h1><img src="/mark.svg" alt="" width="22" height="22" /> Lean Notch</h1>
    <p class="lead">Draw what you want to hold; the cut follows.</p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <RowsTable v-if="projects?.length" label="Projects" :rows="projects" :columns="COLUMNS" :mark="(project) => (project.trouble ? 'wrong' : '')">
      <template #name="{ row: project }">
        <template v-if="!project.trouble"><GoLink :to="`/projects/${project.slug}`">{{ project.name }}</GoLink><span v-if="project.variant_of" class="until">, a variant of {{ project.variant_of }}</span></template>
        <template v-else>
          {{ project.name }}: {{ project.trouble }}
          <ActButton v-if="project.readable" @click="recover(project.slug)">Go back to its state of {{ when(project.readable) }}</ActButton>
          <template v-else>No earlier state of it can be read either.</template>
        </template>
      </template>
      <template #acts="{ row: project }">
        <span class="actions">
          <FileLink v-if="!project.trouble" :href="`/api/projects/${project.slug}/file`" :aria-label="`Save to file: ${project.name}`">Save to file</FileLink>
          <ActButton v-if="!project.trouble" :aria-label="`Duplicate: ${project.name}`" @click="duplicate(project.slug)">Duplicate</ActButton>
          <ActButton :aria-label="`Delete: ${project.name}`" @click="remove(project.slug)">Delete</ActButton>
        </span>
      </template>
    </RowsTable>
    <p v-else-if="projects">There is no project yet.</p>
    <p v-else-if="!away && !trouble" role="status">Reading the list …</p>
    <div class="new in-line">
      <label for="new-name">New project</label>
      <TextInput id="new-name" v-model="name" :most="80" placeholder="its name" @keydown.enter="create" />
      <ActButton look="main" @click="create">Begin</ActButton>
    </div>
    <p><GoLink to="/starters">Begin with a starter</GoLink>: a tray with compartments, a bracket, a rack … by a few numbers.</p>
    <p class="in-line">Beside the projects: <GoLink to="/shelf">the offcut shelf</GoLink> <GoLink to="/machine">the simulated machine</GoLink> <GoLink to="/queue">the hand-in queue</GoLink> <GoLink to="/service">the simulated cutting service</GoLink></p>
    <FileField label="Open a saved project file" accept=".json,application/json" :take="open" />
    <FileField label="Bring a drawing that somebody made (SVG, DXF), or a mesh (STL, OBJ, PLY, 3MF, GLB)" :accept="DRAWINGS" :take="take" />
    <p v-if="reading" role="status">Reading {{ reading }} …</p>
    <section v-if="deleted.length" aria-labelledby="deleted">
      <h2 id="deleted">Deleted</h2>
      <ul class="deleted">
        <li v-for="project in deleted" :key="project.slug">
          <span>{{ project.name }}</span>
          <span class="until">kept until {{ day(project.until) }}</span>
          <ActButton :aria-label="`Have it back: ${project.name}`" @click="restore(project.slug)">Have it back</ActButton>
        </li>
      </ul>
    </section>
  </main>
</template>

<style scoped>
.projects { max-width: 840px; margin: 0 auto; padding: 48px 24px; display: grid; gap: 18px; }
h1 { display: flex; align-items: center; gap: 10px; }
.lead { font-size: 16px; color: var(--soft-ink); margin-top: -12px; }
.actions { display: flex; gap: 12px; white-space: nowrap; }
.new .text-input { width: 240px; }
.deleted { list-style: none; margin: 6px 0 0; padding: 0; border-top: 1px solid var(--rule); }
.deleted li { display: grid; grid-template-columns: minmax(0, 1fr) auto auto; gap: 16px; padding: 3px 8px; border-bottom: 1px solid var(--faint-rule); }
.until { color: var(--soft-ink); }
</style>

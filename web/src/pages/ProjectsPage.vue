<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import { checkSize } from '../api/limits'
import { away, reach } from '../api/reach'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import TextInput from '../kit/TextInput.vue'
import { onDropped } from '../kit/dropped'
import { here, lookWhoIsHere } from '../frame/here'
import PaperSheet from '../kit/PaperSheet.vue'
import BeginHere from '../projects/BeginHere.vue'
import ProjectActs from '../projects/ProjectActs.vue'
import ProjectCards from '../projects/ProjectCards.vue'
import { handbookIsOpen } from '../frame/handbook/open'
import WayField from '../kit/WayField.vue'
import { found, ORDERS, standsAt, when, type Listed, type Order } from '../projects/listed'
import { useBring } from '../wayin/bring'

// Only who wants them waits for them.
const WhoseSheet = defineAsyncComponent(() => import('../projects/WhoseSheet.vue'))
const RowsTable = defineAsyncComponent(() => import('../kit/RowsTable.vue'))

const router = useRouter()
const projects = ref<Schemas['ProjectListed'][] | null>(null)
const deleted = ref<Schemas['DeletedListed'][]>([])
const trouble = ref('')

/** Asks for both lists: what cannot be told is said, and never shown as if there were nothing. They are grouped by who
 * is here: shown before that is known, they would move under the hand. */
async function list(): Promise<void> {
  const [present, gone] = await Promise.all([client.GET('/api/projects'), client.GET('/api/deleted'), here.value ? null : lookWhoIsHere()])
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

async function create(name: string): Promise<void> {
  if (!name.trim()) {
    trouble.value = 'Give the project a name first.'
    return
  }
  const made = await ask(client.POST('/api/projects', { body: { name: name.trim() } }))
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

/** The demo's tray, to walk along the stations with, and the handbook beside it. */
const tray = computed(() => projects.value?.find(({ slug, demo, trouble: spoiled }) => demo && slug === 'sorting-tray' && !spoiled))

function walk(): void {
  handbookIsOpen.value = true
  void router.push('/projects/sorting-tray/measure')
}

/** The demo's projects may be put away together, and had back. */
const demoIsAway = useLocalStorage('demo-put-away', false)
const demos = computed(() => (projects.value ?? []).filter(({ demo }) => demo).length)

const words = ref('')
const order = ref<Order>('changed lately')
const asList = useLocalStorage('projects-as-list', false)
const shown = computed(() => found((projects.value ?? []).filter(({ demo }) => !demo || !demoIsAway.value), words.value, order.value))
/** A maker who came in by name sees what is theirs first, and then what others share. */
const groups = computed(() => {
  if (!here.value?.name) return [{ title: '', rows: shown.value }]
  const [own, others] = [shown.value.filter((one) => one.own), shown.value.filter((one) => !one.own)]
  return [{ title: 'Yours', rows: own }, { title: 'Shared with you', rows: others }].filter(({ rows }) => rows.length)
})
const whose = ref<Listed | null>(null)
const showsWhose = computed({ get: () => whose.value !== null, set: (open) => { if (!open) whose.value = null } })

const columns = computed(() => [
  { key: 'name', title: 'Project', least: 260, sorts: (row: Listed) => row.name },
  { key: 'stands', title: 'How far it has come', least: 160, text: (row: Listed) => (row.trouble ? '' : standsAt(row)) },
  ...(here.value?.by_name ? [{ key: 'owner', title: 'Whose', least: 120, sorts: (row: Listed) => row.owner, text: (row: Listed) => row.owner || 'the workshop' }] : []),
  { key: 'changed', title: 'Changed', width: 160, sorts: (row: Listed) => row.changed, text: (row: Listed) => when(row.changed) },
  { key: 'acts', title: 'What to do with it', width: 220 },
])

function day(date: string): string {
  return new Date(date).toLocaleDateString('en-GB', { dateStyle: 'medium' })
}
</script>

<template>
  <main>
    <PageHead title="Lean Notch"><p class="lead">Draw what you want to hold; the cut follows.</p></PageHead>
    <div class="projects">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <p class="what">Flat parts for the laser or the router, cut as you meant them: your sheet measured, joints that fit it, files that are proved before anybody cuts. <ActButton v-if="tray" @click="walk">Walk along the seven stations</ActButton></p>
      <BeginHere :reading="reading" :open="open" :take="take" :create="create" />
      <template v-if="projects?.length">
        <div class="over">
          <h2>Projects</h2>
          <TextInput v-model="words" label="Look for a project" placeholder="name or stock" :most="60" />
          <WayField label="In which order" :value="order" :options="ORDERS" :save="(chosen) => (order = chosen)" />
          <ActButton :pressed="asList" @click="asList = !asList">As a list</ActButton>
        </div>
        <p v-if="demos" class="demos">{{ demos }} of them are the demo’s, of a shoreline survey club. <ActButton @click="demoIsAway = !demoIsAway">{{ demoIsAway ? 'Have them back' : 'Put them away' }}</ActButton></p>
        <p v-if="!shown.length && words" role="status">No project has “{{ words }}” in its name or its stock.</p>
        <p v-else-if="!shown.length" role="status">Nothing of your own yet: begin in one of the ways above.</p>
        <section v-for="group in groups" v-else :key="group.title" class="group" :aria-label="group.title || undefined">
        <h3 v-if="group.title">{{ group.title }}</h3>
        <ProjectCards v-if="!asList" :projects="group.rows" @remove="remove" @duplicate="duplicate" @recover="recover" @whose="(project) => (whose = project)" />
        <RowsTable v-else :label="group.title || 'Projects'" :rows="group.rows" :columns="columns" :mark="(project) => (project.trouble ? 'wrong' : '')">
        <template #name="{ row: project }">
          <template v-if="!project.trouble"><GoLink :to="`/projects/${project.slug}`">{{ project.name }}</GoLink><span v-if="project.variant_of" class="until">, a variant of {{ project.variant_of }}</span></template>
          <template v-else>
            {{ project.name }}: {{ project.trouble }}
            <ActButton v-if="project.readable" @click="recover(project.slug)">Go back to its state of {{ when(project.readable) }}</ActButton>
            <template v-else>No earlier state of it can be read either.</template>
          </template>
        </template>
        <template #acts="{ row: project }">
          <ProjectActs :project="project" @remove="remove(project.slug)" @duplicate="duplicate(project.slug)" @whose="whose = project" />
        </template>
        </RowsTable>
        </section>
      </template>
      <p v-else-if="projects">There is no project yet: begin in one of these ways.</p>
      <p v-else-if="!away && !trouble" role="status">Reading the list …</p>
      <PaperSheet v-model="showsWhose" :title="whose?.name ?? ''" width="760px"><WhoseSheet v-if="whose" :project="whose" @changed="list" /></PaperSheet>
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
    </div>
  </main>
</template>

<style scoped>
.projects { max-width: 1240px; margin: 0 auto; padding: 18px 24px 48px; display: grid; gap: 18px; }
h2 { margin: 0; font-size: 15px; }
.group { display: grid; gap: 8px; }
h3 { margin: 4px 0 0; font-size: 14px; }
.what { margin: 0; font-size: 15px; }
.demos { margin: -8px 0 0; color: var(--soft-ink); }
.lead { color: var(--soft-ink); margin: 0; }
.over { display: flex; align-items: center; gap: 14px; }
.over h2 { margin-right: auto; }
.over .text-input { width: 220px; }
.over .act { white-space: nowrap; }
.deleted { list-style: none; margin: 6px 0 0; padding: 0; border-top: 1px solid var(--rule); }
.deleted li { display: grid; grid-template-columns: minmax(0, 1fr) auto auto; gap: 16px; padding: 3px 8px; border-bottom: 1px solid var(--faint-rule); }
.until { color: var(--soft-ink); }
</style>

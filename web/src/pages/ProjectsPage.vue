<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import { away, reach } from '../api/reach'

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

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  trouble.value = ''
  try {
    if (file.size > 8_000_000) throw { message: `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; a project file has at most 8 MB.` }
    const answer = await reach('/api/projects/open', { method: 'POST', body: file })
    const told = (await answer.json()) as Schemas['ProjectShown'] & { message?: string }
    if (!answer.ok) throw told
    void router.push(`/projects/${told.slug}/shape`)
  } catch (error) {
    trouble.value = sentence(error)
  }
  input.value = ''
}

async function remove(slug: string): Promise<void> {
  await ask(client.DELETE('/api/projects/{slug}', { params: { path: { slug } } }))
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
    <table v-if="projects?.length" class="figures">
      <thead>
        <tr><th>Project</th><th class="number">Parts</th><th>Changed</th><th></th></tr>
      </thead>
      <tbody>
        <template v-for="project in projects" :key="project.slug">
          <tr>
            <td>
              <RouterLink v-if="!project.trouble" :to="`/projects/${project.slug}`">{{ project.name }}</RouterLink>
              <template v-else>{{ project.name }}</template>
            </td>
            <td class="number">{{ project.parts ?? 'not known' }}</td>
            <td class="when">{{ when(project.changed) }}</td>
            <td class="actions">
              <a v-if="!project.trouble" :href="`/api/projects/${project.slug}/file`" download :aria-label="`Save to file: ${project.name}`">Save to file</a>
              <button type="button" class="plain-button" :aria-label="`Delete: ${project.name}`" @click="remove(project.slug)">Delete</button>
            </td>
          </tr>
          <tr v-if="project.trouble" class="wrong">
            <td colspan="4" class="unreadable">
              {{ project.trouble }}
              <button v-if="project.readable" type="button" class="plain-button" @click="recover(project.slug)">Go back to its state of {{ when(project.readable) }}</button>
              <template v-else>No earlier state of it can be read either.</template>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <p v-else-if="projects">There is no project yet.</p>
    <p v-else-if="!away && !trouble" role="status">Reading the list …</p>
    <form class="new in-line" @submit.prevent="create">
      <label for="new-name">New project</label>
      <input id="new-name" v-model="name" class="text-input" maxlength="80" placeholder="its name" />
      <button type="submit" class="ink-button main">Begin</button>
    </form>
    <p><RouterLink to="/starters">Begin with a starter</RouterLink>: a tray with compartments, a bracket, a rack … by a few numbers.</p>
    <p class="in-line">
      <label for="open-file">Open a saved project file</label>
      <input id="open-file" type="file" accept=".json,application/json" @change="open" />
    </p>
    <section v-if="deleted.length" aria-labelledby="deleted">
      <h2 id="deleted">Deleted</h2>
      <ul class="deleted">
        <li v-for="project in deleted" :key="project.slug">
          <span>{{ project.name }}</span>
          <span class="until">kept until {{ day(project.until) }}</span>
          <button type="button" class="plain-button" :aria-label="`Have it back: ${project.name}`" @click="restore(project.slug)">Have it back</button>
        </li>
      </ul>
    </section>
  </main>
</template>

<style scoped>
.projects { max-width: 760px; margin: 0 auto; padding: 48px 24px; display: grid; gap: 18px; }
h1 { display: flex; align-items: center; gap: 10px; }
.lead { font-size: 16px; color: var(--soft-ink); margin-top: -12px; }
table { font-size: 14px; }
.when, .actions { white-space: nowrap; }
.actions { text-align: right; }
.actions > * + * { margin-left: 12px; }
.unreadable { font-size: 12px; }
.new .text-input { width: 240px; }
.deleted { list-style: none; margin: 6px 0 0; padding: 0; border-top: 1px solid var(--rule); }
.deleted li { display: grid; grid-template-columns: minmax(0, 1fr) auto auto; gap: 16px; padding: 3px 8px; border-bottom: 1px solid var(--faint-rule); }
.until { color: var(--soft-ink); }
</style>

<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'

const router = useRouter()
const projects = ref<Schemas['ProjectListed'][]>([])
const name = ref('')
const trouble = ref('')
const loaded = ref(false)

async function list(): Promise<void> {
  const { data, error } = await client.GET('/api/projects')
  if (data) projects.value = data
  else trouble.value = sentence(error)
  loaded.value = true
}
onMounted(list)

async function create(): Promise<void> {
  if (!name.value.trim()) {
    trouble.value = 'Give the project a name first.'
    return
  }
  const { data, error } = await client.POST('/api/projects', { body: { name: name.value.trim() } })
  if (data) void router.push(`/projects/${data.slug}/${data.document.stocks.length ? 'shape' : 'measure'}`)
  else trouble.value = sentence(error)
}

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  trouble.value = ''
  try {
    if (file.size > 8_000_000) throw { message: `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; a project file has at most 8 MB.` }
    const answer = await fetch('/api/projects/open', { method: 'POST', body: file })
    const told = (await answer.json()) as Schemas['ProjectShown'] & { message?: string }
    if (!answer.ok) throw told
    void router.push(`/projects/${told.slug}/shape`)
  } catch (error) {
    trouble.value = sentence(error)
  }
  input.value = ''
}

async function remove(project: Schemas['ProjectListed']): Promise<void> {
  if (!window.confirm(`Delete “${project.name}” with its whole history? Save it to a file first if you may want it again.`)) return
  await client.DELETE('/api/projects/{slug}', { params: { path: { slug: project.slug } } })
  await list()
}
</script>

<template>
  <main class="projects">
    <h1><img src="/mark.svg" alt="" width="22" height="22" /> Lean Notch</h1>
    <p class="lead">Draw what you want to hold; the cut follows.</p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <table v-if="projects.length" class="figures">
      <thead>
        <tr><th>Project</th><th class="number">Parts</th><th>Changed</th><th></th></tr>
      </thead>
      <tbody>
        <tr v-for="project in projects" :key="project.slug">
          <td><RouterLink :to="`/projects/${project.slug}`">{{ project.name }}</RouterLink></td>
          <td class="number">{{ project.parts }}</td>
          <td>{{ new Date(project.changed).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }) }}</td>
          <td class="actions">
            <a :href="`/api/projects/${project.slug}/file`" download>Save to file</a>
            <button type="button" class="plain-button" @click="remove(project)">Delete</button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="loaded">There is no project yet.</p>
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
  </main>
</template>

<style scoped>
.projects { max-width: 760px; margin: 0 auto; padding: 48px 24px; display: grid; gap: 18px; }
h1 { display: flex; align-items: center; gap: 10px; }
.lead { font-size: 16px; color: var(--soft-ink); margin-top: -12px; }
table { font-size: 14px; }
.actions > * + * { margin-left: 12px; }
.new .text-input { width: 240px; }
</style>

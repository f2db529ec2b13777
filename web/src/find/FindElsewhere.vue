<script setup lang="ts">
import { useRouter } from 'vue-router'

import { client } from '../api/client'
import { BESIDE } from '../frame/beside'
import FindSheet from './FindSheet.vue'
import type { Findable } from './matching'
import { onPage } from './onPage'

/** What stands on a page that is no project, the pages beside it, and all projects. */
const open = defineModel<boolean>({ required: true })
const router = useRouter()

function findables(): Findable[] {
  const page = document.querySelector('main')
  const title = document.querySelector('h1')?.textContent ?? ''
  const places = [{ to: '/', name: 'All projects' }, ...BESIDE].map(({ to, name }) => ({ words: name, where: 'page', go: () => router.push(to) }))
  const known = new Set(places.map(({ words }) => words))
  return [...places, ...(page ? onPage(page, title) : []).filter(({ words }) => !known.has(words))]
}

async function projects(): Promise<Findable[]> {
  const { data } = await client.GET('/api/projects')
  return (data ?? []).filter(({ trouble }) => !trouble).map(({ slug, name }) => ({ words: name, where: 'project', go: () => router.push(`/projects/${slug}/shape`) }))
}
</script>

<template>
  <FindSheet v-model="open" :findables="findables" :more="projects" />
</template>

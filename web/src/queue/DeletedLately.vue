<script setup lang="ts">
import { onMounted, ref } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'

/** What somebody deleted, projects and sheets that were handed in: the operator sees it, and can have it back. */
const props = defineProps<{ handed: Schemas['HandInShown'][]; haveBack: (number: number) => void }>()
const deleted = ref<Schemas['DeletedListed'][]>([])
const trouble = ref('')
const day = (moment: string): string => new Date(moment).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })

async function list(): Promise<void> {
  const { data, error } = await client.GET('/api/deleted')
  if (data) deleted.value = data
  else trouble.value = sentence(error)
}
onMounted(list)

async function restore(slug: string): Promise<void> {
  const { error } = await client.POST('/api/deleted/{slug}/restore', { params: { path: { slug } } })
  trouble.value = error ? sentence(error) : ''
  await list()
}
</script>

<template>
  <FoldSection v-if="deleted.length || props.handed.length" :title="`Deleted lately: ${deleted.length + props.handed.length}`" name="deleted" folded>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <ul class="deleted" aria-label="Deleted lately">
      <li v-for="sheet in props.handed" :key="sheet.number">number {{ sheet.number }}, {{ sheet.project_name }} of {{ sheet.owner }} <ActButton :aria-label="`Have it back: number ${sheet.number}`" @click="props.haveBack(sheet.number)">have it back</ActButton></li>
      <li v-for="project in deleted" :key="project.slug">{{ project.name }}, {{ day(project.deleted) }} <ActButton :aria-label="`Have it back: ${project.name}`" @click="restore(project.slug)">have it back</ActButton></li>
    </ul>
  </FoldSection>
</template>

<style scoped>
.deleted { list-style: none; margin: 0; padding: 0; }
</style>

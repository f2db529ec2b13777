<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { client, sentence } from '../api/client'
import PageHead from '../frame/PageHead.vue'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'

/** A project to look at, to be saved as one file, printed, or copied to go on from. Nothing can be changed here. */
const route = useRoute()
const router = useRouter()
const slug = computed(() => String(route.params.slug))
const name = ref('')
const trouble = ref('')
const drawn = ref(false)

onMounted(async () => {
  const { data, error } = await client.GET('/api/projects/{slug}', { params: { path: { slug: slug.value } } })
  if (data) name.value = data.document.name
  else trouble.value = sentence(error)
})

async function copy(): Promise<void> {
  const { data, error } = await client.POST('/api/projects/{slug}/duplicate', { params: { path: { slug: slug.value } } })
  if (data) await router.push(`/projects/${data.slug}/shape`)
  else trouble.value = sentence(error)
}
</script>

<template>
  <main class="look">
    <PageHead :title="name || 'A project to look at'"><FileLink :href="`/api/projects/${slug}/page?save=true`">Save it as one file (HTML)</FileLink> <ActButton @click="copy">Copy it, to go on from</ActButton></PageHead>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <template v-else>
      <p v-if="!drawn" role="status" class="waits">It is drawn from all sides …</p>
      <iframe v-show="drawn" :src="`/api/projects/${slug}/page`" :title="`${name}, to look at`" @load="drawn = true"></iframe>
    </template>
  </main>
</template>

<style scoped>
.look { height: var(--page); display: grid; grid-template-rows: auto minmax(0, 1fr); }
iframe { border: 0; width: 100%; height: 100%; }
.waits { padding: 24px; margin: 0; }
</style>

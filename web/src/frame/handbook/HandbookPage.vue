<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'

import { STATIONS } from '../stations'
import ActButton from '../../kit/ActButton.vue'
import GoLink from '../../kit/GoLink.vue'
import { handbookIsOpen } from './open'
import { writtenPage } from './pages'

/** The page of the station that is open: what it is for, what to try there, and what goes wrong. */
const route = useRoute()
const at = computed(() => STATIONS.findIndex(({ key }) => key === route.params.station))
const next = computed(() => STATIONS[at.value + 1])
const html = ref('')
const page = useTemplateRef<HTMLElement>('page')

watch(at, async (index) => {
  const station = STATIONS[index]
  html.value = station ? await writtenPage(station.key) : ''
  page.value?.scrollTo({ top: 0 })
}, { immediate: true })
</script>

<template>
  <section ref="page" class="handbook" aria-label="Handbook" tabindex="0">
    <p class="in-line top"><span>Handbook, {{ at + 1 }} of {{ STATIONS.length }}</span><ActButton @click="handbookIsOpen = false">Close it</ActButton></p>
    <!-- eslint-disable-next-line vue/no-v-html -->
    <div class="said" v-html="html"></div>
    <p v-if="next" class="next"><GoLink :to="`/projects/${String(route.params.slug)}/${next.key}`">Next: {{ next.name }}</GoLink></p>
    <p v-else class="next">That is all of the way. <GoLink to="/">All projects</GoLink></p>
  </section>
</template>

<style scoped>
.handbook { overflow-y: auto; min-height: 0; padding: 8px 14px 16px; background: var(--paper); line-height: 1.45; }
.top { justify-content: space-between; color: var(--soft-ink); }
.said :deep(h1) { font-size: 19px; margin: 8px 0 4px; }
.said :deep(h2) { font-size: 14px; margin: 14px 0 4px; }
.said :deep(ol), .said :deep(ul) { margin: 0; padding-left: 20px; display: grid; gap: 6px; }
.said :deep(p) { margin: 4px 0; }
.said :deep(code) { font: inherit; background: var(--ground); padding: 0 3px; }
.next { margin: 16px 0 0; font-weight: 600; }
</style>

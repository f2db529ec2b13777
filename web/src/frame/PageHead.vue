<script setup lang="ts">
import { useRoute } from 'vue-router'

import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import { BESIDE } from './beside'
import { finding } from './finding'
import WhoIsHere from './WhoIsHere.vue'

/** The head of every page that is no station: the way back, what it is, what is to be said of it, and what is beside. */
defineProps<{ title: string; back?: string; backTo?: string }>()
const route = useRoute()
</script>

<template>
  <header class="page-head">
    <GoLink to="/" class="mark"><img src="/mark.svg" alt="Lean Notch, all projects" width="20" height="20" /></GoLink>
    <GoLink v-if="backTo" class="back" :to="backTo">{{ back }}</GoLink>
    <h1 class="cut-off" :title="title">{{ title }}</h1>
    <div class="said"><slot /></div>
    <nav aria-label="Beside the projects"><GoLink v-for="place in BESIDE" :key="place.to" :to="place.to" :aria-current="route.path === place.to ? 'page' : undefined">{{ place.name }}</GoLink></nav>
    <ActButton title="Key: /" @click="finding = true">Find</ActButton>
    <WhoIsHere />
  </header>
</template>

<style scoped>
.page-head { position: sticky; top: 0; z-index: 5; grid-column: 1 / -1; height: 46px; display: flex; align-items: center; gap: 16px; padding: 0 14px; border-bottom: 1px solid var(--ink); background: var(--paper); white-space: nowrap; }
.mark { display: flex; flex: none; }
.back { flex: none; }
h1 { margin: 0; font-size: 16px; flex: 0 1 auto; min-width: 4em; max-width: 45%; }
.said { display: flex; align-items: center; gap: 16px; min-width: 0; flex: 0 1 auto; }
.said > :deep(*) { flex: none; }
.said > :deep(.cut-off) { flex: 0 1 auto; }
.said:empty { display: none; }
nav { margin-left: auto; display: flex; gap: 16px; flex: none; }
nav :deep([aria-current]) { color: var(--ink); font-weight: 600; text-decoration: none; }
@media (max-width: 900px) {
  .page-head { position: static; height: auto; flex-wrap: wrap; gap: 6px 16px; padding: 8px 14px; }
  h1 { max-width: 80%; }
  .said { flex-wrap: wrap; }
  .said > :deep(*) { white-space: normal; flex: 0 1 auto; }
  nav { margin-left: 0; flex-wrap: wrap; gap: 6px 16px; }
}
</style>

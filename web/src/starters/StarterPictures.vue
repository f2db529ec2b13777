<script setup lang="ts">
import GoLink from '../kit/GoLink.vue'
import { useKinds } from './kinds'

/** Some starters by their pictures, each a way to begin: a project of its own, or something more in one that is there. */
defineProps<{ into?: string }>()
const kinds = useKinds()
/** So many are shown; all of them are on their own page. */
const SHOWN = 6
</script>

<template>
  <nav class="starter-pictures" aria-label="Some starters">
    <GoLink v-for="kind in kinds.slice(0, SHOWN)" :key="kind.key" :to="{ path: `/starters/${kind.key}`, query: into ? { into } : {} }" :title="kind.title" :aria-label="kind.title">
      <img :src="`/api/starters/${kind.key}/portrait`" alt="" width="92" height="64" />
    </GoLink>
  </nav>
</template>

<style scoped>
.starter-pictures { display: grid; grid-template-columns: repeat(3, 1fr); gap: 6px 10px; width: 100%; }
img { width: 100%; height: 64px; object-fit: contain; display: block; }
</style>

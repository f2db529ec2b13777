<script setup lang="ts">
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import type { Listed } from './listed'

/** What may be done with a project from the list; one that cannot be read can only be deleted. */
defineProps<{ project: Listed }>()
const emit = defineEmits<{ remove: []; duplicate: [] }>()
</script>

<template>
  <span class="actions">
    <template v-if="!project.trouble">
      <FileLink :href="`/api/projects/${project.slug}/file`" :aria-label="`Save to file: ${project.name}`">Save to file</FileLink>
      <ActButton :aria-label="`Duplicate: ${project.name}`" @click="emit('duplicate')">Duplicate</ActButton>
    </template>
    <ActButton :aria-label="`Delete: ${project.name}`" @click="emit('remove')">Delete</ActButton>
  </span>
</template>

<style scoped>
.actions { display: flex; gap: 12px; white-space: nowrap; }
</style>

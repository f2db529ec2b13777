<script setup lang="ts">
import { computed } from 'vue'

import { here } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import type { Listed } from './listed'

/** What may be done with a project from the list; one that cannot be read can only be deleted. */
const props = defineProps<{ project: Listed }>()
const emit = defineEmits<{ remove: []; duplicate: []; whose: [] }>()
const may = computed(() => props.project.own || ['copy', 'work'].includes(props.project.shared))
</script>

<template>
  <span class="actions">
    <template v-if="!project.trouble && may">
      <FileLink :href="`/api/projects/${project.slug}/file`" :aria-label="`Save to file: ${project.name}`">Save to file</FileLink>
      <ActButton :aria-label="`${project.own ? 'Duplicate' : 'Take a copy'}: ${project.name}`" @click="emit('duplicate')">{{ project.own ? 'Duplicate' : 'Take a copy' }}</ActButton>
    </template>
    <ActButton v-if="here?.by_name && project.own && !project.trouble" :aria-label="`Whose it is: ${project.name}`" @click="emit('whose')">Share</ActButton>
    <ActButton v-if="project.own" :aria-label="`Delete: ${project.name}`" @click="emit('remove')">Delete</ActButton>
  </span>
</template>

<style scoped>
.actions { display: flex; gap: 12px; white-space: nowrap; }
</style>

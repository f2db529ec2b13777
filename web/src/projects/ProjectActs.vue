<script setup lang="ts">
import { computed } from 'vue'

import { here } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import type { Listed } from './listed'

/** What may be done with a project from the list; one that cannot be read can only be deleted. */
const props = defineProps<{ project: Listed }>()
const emit = defineEmits<{ remove: []; duplicate: []; whose: [] }>()
/** Copies of one design are told apart by whose they are. */
const said = computed(() => (props.project.owner && props.project.owner !== here.value?.name ? `${props.project.name}, ${props.project.owner}` : props.project.name))
const may = computed(() => props.project.own || ['copy', 'work'].includes(props.project.shared))
</script>

<template>
  <span class="actions">
    <template v-if="!project.trouble && may">
      <FileLink :href="`/api/projects/${project.slug}/file`" :aria-label="`Save to file: ${project.name}`">Save to file</FileLink>
      <ActButton :aria-label="`${project.own ? 'Duplicate' : 'Take a copy'}: ${said}`" @click="emit('duplicate')">{{ project.own ? 'Duplicate' : 'Take a copy' }}</ActButton>
    </template>
    <ActButton v-if="here?.by_name && project.own && !project.trouble" :aria-label="`Whose it is: ${said}`" @click="emit('whose')">Share</ActButton>
    <ActButton v-if="project.own" :aria-label="`Delete: ${said}`" @click="emit('remove')">Delete</ActButton>
  </span>
</template>

<style scoped>
.actions { display: flex; flex-wrap: wrap; gap: 2px 9px; white-space: nowrap; }
</style>

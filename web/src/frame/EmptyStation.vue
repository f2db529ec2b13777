<script setup lang="ts">
import { useWorkshop } from '../state/workshop'
import GoLink from '../kit/GoLink.vue'

/** A station with nothing on it yet: what it is for, and where to go first. */
defineProps<{ title: string; says: string; first?: 'lay-out' | 'shape' }>()
const workshop = useWorkshop()
const NAMES = { 'lay-out': 'Go to Lay out', shape: 'Go to Shape' }
</script>

<template>
  <div class="empty">
    <h2>{{ title }}</h2>
    <p>{{ says }}</p>
    <GoLink v-if="first" :to="`/projects/${workshop.shown?.slug}/${first}`">{{ NAMES[first] }}</GoLink>
    <slot />
  </div>
</template>

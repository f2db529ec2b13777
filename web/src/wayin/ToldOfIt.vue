<script setup lang="ts">
import ActButton from '../kit/ActButton.vue'
import type { Told } from './look'

/** What became of things in the file; those that have places are pointed at on the drawing when they are pressed. */
defineProps<{ told: Told[]; pointed: string }>()
const emit = defineEmits<{ point: [says: string] }>()
</script>

<template>
  <ul>
    <li v-for="one in told" :key="one.says">
      {{ one.says }}
      <ActButton v-if="one.places.length" look="bare" class="where" :pressed="pointed === one.says" @click="emit('point', pointed === one.says ? '' : one.says)">{{ one.places.length === 1 ? 'Where' : `Where, ${one.places.length} places` }}</ActButton>
    </li>
  </ul>
</template>

<style scoped>
ul { margin: 2px 0; padding-left: 16px; font-size: 12.5px; }
.where.act.el-button { padding: 0 4px; height: auto; color: inherit; text-decoration: underline; font-size: inherit; }
.where.act.el-button.on { background: var(--ink); color: var(--paper); text-decoration: none; }
</style>

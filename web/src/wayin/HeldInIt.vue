<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What the file holds, by kind, and what became of each. */
defineProps<{ held: Schemas['InFileShown'][] }>()
const became = (one: Schemas['InFileShown']): string => Object.entries(one.became).map(([what, number]) => `${number} ${what}`).join(', ')
</script>

<template>
  <table>
    <thead><tr><th scope="col">In the file</th><th scope="col">What became of it</th></tr></thead>
    <tbody>
      <tr v-for="one in held" :key="one.kind"><td>{{ one.number }} {{ one.kind }}</td><td>{{ became(one) }}</td></tr>
    </tbody>
  </table>
</template>

<style scoped>
table { border-collapse: collapse; font-size: 12.5px; width: 100%; }
th { text-align: left; font-weight: 500; color: var(--soft-ink); }
th, td { border-bottom: 1px solid var(--faint-rule); padding: 2px 8px 2px 0; vertical-align: top; }
</style>

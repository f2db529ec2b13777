<script setup lang="ts">
import { useWorkshop } from '../stores/workshop'

/** Which sheet the drawing shows. */
const workshop = useWorkshop()

function stockName(id: string): string {
  return workshop.document?.stocks.find((s) => s.id === id)?.name ?? id
}
</script>

<template>
  <nav class="sheets" aria-label="Sheets">
    <button
      v-for="(sheet, index) in workshop.shown?.sheets"
      :key="index"
      type="button"
      :aria-pressed="index === workshop.sheet"
      @click="workshop.sheet = index"
    >
      Sheet {{ index + 1 }} <small>{{ stockName(sheet.stock) }} · {{ (sheet.used * 100).toFixed(1) }} % used</small>
    </button>
  </nav>
</template>

<style scoped>
.sheets { display: flex; gap: 2px; overflow-x: auto; border-bottom: 1px solid var(--rule); padding: 0 8px; }
button { border: 0; border-bottom: 3px solid transparent; background: none; padding: 5px 8px 3px; cursor: pointer; white-space: nowrap; }
button:hover { background: var(--faint-rule); }
[aria-pressed='true'] { border-bottom-color: var(--accent); color: var(--accent); font-weight: 600; }
small { color: var(--soft-ink); font-weight: 400; }
</style>

<script setup lang="ts">
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'

/** Which sheet the drawing shows. */
const workshop = useWorkshop()
const picked = useChoice()

function stockName(id: string): string {
  return workshop.document?.stocks.find((s) => s.id === id)?.name ?? id
}
</script>

<template>
  <nav class="sheets" aria-label="Sheets">
    <ActButton look="bare"
      v-for="(sheet, index) in workshop.shown?.sheets"
      :key="index"
      :pressed="index === picked.sheet"
      @click="picked.pick({ sheet: index })"
    >
      Sheet {{ index + 1 }} <small>{{ stockName(sheet.stock) }} · {{ (sheet.used * 100).toFixed(1) }} % used</small>
    </ActButton>
  </nav>
</template>

<style scoped>
.sheets { display: flex; gap: 2px; overflow-x: auto; border-bottom: 1px solid var(--rule); padding: 0 8px; }
.sheets .act.el-button { display: inline-block; border: 0; border-bottom: 3px solid transparent; background: none; padding: 5px 8px 3px; cursor: pointer; white-space: nowrap; }
.sheets .act.el-button:hover { background: var(--faint-rule); }
.sheets .act.el-button.on { border-bottom-color: var(--accent); color: var(--accent); font-weight: 600; }
small { margin-left: 4px; color: var(--soft-ink); font-weight: 400; }
</style>

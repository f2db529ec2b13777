<script setup lang="ts">
import { computed } from 'vue'

import { withUnit } from '../fields/units'
import { useWorkshop } from '../stores/workshop'

/** The steps of the assembly with their drawings and the list of parts, to be printed. */
defineProps<{ pages: { text: string; picture: string }[] }>()
const emit = defineEmits<{ close: [] }>()
const workshop = useWorkshop()

const parts = computed(() =>
  (workshop.document?.parts ?? []).map((part) => {
    const shown = workshop.shown?.parts.find((p) => p.id === part.id)
    const stock = workshop.document?.stocks.find((s) => s.id === part.stock)
    const size = shown ? `${withUnit(shown.width, workshop.unit)} × ${withUnit(shown.height, workshop.unit)}` : ''
    return { name: part.name, count: part.count, stock: stock?.name ?? '', size }
  }),
)

function print(): void {
  window.print()
}
</script>

<template>
  <Teleport to="body">
    <section class="assembly-sheet" role="dialog" aria-label="Assembly sheet">
      <p class="bar">
        <button type="button" class="ink-button main" @click="print">Print</button>
        <button type="button" class="ink-button" @click="emit('close')">Close</button>
      </p>
      <h1>{{ workshop.document?.name }}: putting it together</h1>
      <table class="figures">
        <thead><tr><th>Part</th><th class="number">how many</th><th>stock</th><th>size</th></tr></thead>
        <tbody>
          <tr v-for="(part, index) in parts" :key="index"><td>{{ part.name }}</td><td class="number">{{ part.count }}</td><td>{{ part.stock }}</td><td>{{ part.size }}</td></tr>
        </tbody>
      </table>
      <ol>
        <li v-for="(page, index) in pages" :key="index"><img :src="page.picture" :alt="page.text" /><p>{{ index + 1 < pages.length ? `${index + 1}. ` : '' }}{{ page.text }}</p></li>
      </ol>
    </section>
  </Teleport>
</template>

<style>
.assembly-sheet { position: fixed; inset: 0; overflow: auto; background: #fff; z-index: 40; padding: 20px 28px; }
.assembly-sheet .bar { display: flex; gap: 10px; margin-bottom: 12px; }
.assembly-sheet table { width: auto; margin: 10px 0; }
.assembly-sheet ol { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(3, 1fr); gap: 18px; }
.assembly-sheet img { width: 100%; border: 1px solid var(--rule); }
.assembly-sheet li { break-inside: avoid; }
@media print {
  #app { display: none; }
  .assembly-sheet { position: static; padding: 0; }
  .assembly-sheet .bar { display: none; }
}
</style>

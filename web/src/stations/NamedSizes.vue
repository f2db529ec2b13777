<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../fields/SizeField.vue'
import { typed, withUnit } from '../fields/units'
import { useWorkshop, type Refusal } from '../stores/workshop'

/** Sizes of the whole project that other sizes may use by name. */
const workshop = useWorkshop()
const fresh = ref('')
const refusal = ref('')

/** Those of a starter follow from its numbers and are changed there. */
const names = computed(() => workshop.document?.names ?? [])
const given = computed(() => (workshop.document?.stocks ?? []).map((stock) => `${stock.id}.thickness`).join(', '))

function save(name: string, size: Size): Promise<Refusal | null> {
  return workshop.edit({ do: 'put name', name: { name, size, starter: '' } })
}

async function add(): Promise<void> {
  const name = fresh.value.trim().toLowerCase().replace(/\s+/g, '_')
  if (!/^[a-z][a-z0-9_]{0,29}$/.test(name)) {
    refusal.value = 'A name is one word of letters, digits and _, such as tray_length.'
    return
  }
  refusal.value = (await save(name, typed(100, workshop.unit)))?.message ?? ''
  if (!refusal.value) fresh.value = ''
}
</script>

<template>
  <h3>Named sizes of the project</h3>
  <div class="stack">
    <div v-for="named in names.filter((one) => !one.starter)" :key="named.name" class="named">
      <SizeField :label="named.name" :size="named.size" :value="workshop.shown?.values[`names/${named.name}`]" :save="(size) => save(named.name, size)" />
      <button type="button" class="plain-button" :aria-label="`Remove ${named.name}`" @click="workshop.change({ do: 'remove name', name: named.name })">✕</button>
    </div>
    <form class="row-field" @submit.prevent="add">
      <input v-model="fresh" class="text-input" aria-label="New named size" placeholder="new name" maxlength="30" @keydown.stop />
      <button type="submit" class="ink-button">Add</button>
    </form>
    <p v-if="refusal" class="why" role="alert">{{ refusal }}</p>
    <details v-if="names.some((one) => one.starter)" class="explain">
      <summary>Sizes that starters give</summary>
      <p v-for="named in names.filter((one) => one.starter)" :key="named.name" class="made"><span>{{ named.name }}</span> {{ withUnit(workshop.shown?.values[`names/${named.name}`] ?? 0, workshop.unit) }}</p>
    </details>
    <p class="explain">Any size may use these, width, height, thickness and kerf<template v-if="given">, {{ given }}</template>.</p>
  </div>
</template>

<style scoped>
.named { display: grid; grid-template-columns: 1fr auto; gap: 6px; align-items: start; }
.starter { display: flex; justify-content: space-between; gap: 8px; }
summary { cursor: pointer; }
.explain { color: var(--soft-ink); font-size: 12px; overflow-wrap: anywhere; }
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import { typed, withUnit } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import TextInput from '../kit/TextInput.vue'
import FoldSection from '../kit/FoldSection.vue'

/** Sizes of the whole project that other sizes may use by name. */
const workshop = useWorkshop()
const edits = useEdits()
const fresh = ref('')
const refusal = ref('')

/** Those of a starter follow from its numbers and are changed there. */
const names = computed(() => workshop.document?.names ?? [])
const given = computed(() => (workshop.document?.stocks ?? []).map((stock) => `${stock.id}.thickness`).join(', '))

function save(name: string, size: Size): Promise<Refusal | null> {
  return edits.edit({ do: 'put name', name: { name, size, starter: '' } })
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
  <div class="stack">
    <div v-for="named in names.filter((one) => !one.starter)" :key="named.name" class="named">
      <SizeField :label="named.name" :size="named.size" :value="workshop.shown?.values[`names/${named.name}`]" :save="(size) => save(named.name, size)" />
      <ActButton :aria-label="`Remove ${named.name}`" @click="edits.change({ do: 'remove name', name: named.name })">✕</ActButton>
    </div>
    <div class="row-field">
      <TextInput v-model="fresh" label="New named size" placeholder="new name" :most="30" @keydown.enter="add" />
      <ActButton look="ink" @click="add">Add</ActButton>
    </div>
    <p v-if="refusal" class="why" role="alert">{{ refusal }}</p>
    <FoldSection v-if="names.some((one) => one.starter)" title="Sizes that starters give" name="starter-sizes" folded>
      <p v-for="named in names.filter((one) => one.starter)" :key="named.name" class="made"><span>{{ named.name }}</span> {{ withUnit(workshop.shown?.values[`names/${named.name}`] ?? 0, workshop.unit) }}</p>
    </FoldSection>
    <p class="explain">Any size may use these, width, height, thickness and kerf<template v-if="given">, {{ given }}</template>.</p>
  </div>
</template>

<style scoped>
.named { display: grid; grid-template-columns: 1fr auto; gap: 6px; align-items: start; }
.made { display: flex; justify-content: space-between; gap: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; overflow-wrap: anywhere; }
</style>

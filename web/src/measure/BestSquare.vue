<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Stock } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import { inLibrary } from '../state/library'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** Which square of a settings coupon came out best: its setting becomes that of the stock, tried today. */
const props = defineProps<{ stock: Stock }>()
const workshop = useWorkshop()
const edits = useEdits()
const best = ref<string | null>(null)
const done = ref('')

const squares = computed(() => workshop.document?.parts.filter(({ settings }) => settings.length) ?? [])
const names = computed(() => Object.fromEntries(squares.value.map(({ id, name }) => [id, name])))

async function take(): Promise<void> {
  const setting = squares.value.find(({ id }) => id === best.value)?.settings[0]
  if (!setting) return
  const tried = new Date().toLocaleDateString('sv-SE')
  if (await edits.told(edits.edit({ do: 'set setting', stock: props.stock.id, setting: { ...setting, tried } }))) done.value = `${setting.speed} mm/s at ${setting.power} is the setting to ${setting.operation} now, here ${inLibrary()}.`
}
</script>

<template>
  <section v-if="squares.length" aria-label="Best square">
    <h2>The best square</h2>
    <ChoiceField label="Came out best" :value="best" :options="squares.map(({ id }) => id)" :names="names" empty="speed at power …" :save="(id) => { best = id }" />
    <p class="in-line"><ActButton look="ink" :disabled="!best" @click="take">Take its setting</ActButton></p>
    <p v-if="done" role="status" class="explain">{{ done }}</p>
  </section>
</template>

<style scoped>
.in-line { margin-top: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

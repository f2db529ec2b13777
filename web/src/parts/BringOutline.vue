<script setup lang="ts">
import { ref, useId } from 'vue'

import { sentence, type Part, type Schemas } from '../api/client'
import { reach } from '../api/reach'
import { useWorkshop } from '../stores/workshop'

/** Takes a part's outline from an SVG or DXF file; what was assumed, mended or left out is said beneath. */
const props = defineProps<{ part: Part }>()
const workshop = useWorkshop()
const id = useId()
const trouble = ref('')
const notes = ref<string[]>([])
const reading = ref('')
const LARGEST = 8_000_000

async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  trouble.value = ''
  notes.value = []
  reading.value = file.name
  try {
    notes.value = await taken(file)
  } catch (error) {
    trouble.value = sentence(error)
  } finally {
    reading.value = ''
  }
}

/** Reads the file and draws the part as its outline; answers what there is to say of it. */
async function taken(file: File): Promise<string[]> {
  if (file.size > LARGEST) throw { message: `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; a drawing of at most 8 MB can be brought.` }
  const answer = await reach('/api/outlines', { method: 'POST', body: file })
  const told = (await answer.json()) as Schemas['OutlineShown'] & { message?: string }
  if (!answer.ok) throw told
  const refusal = await workshop.edit({ do: 'bring outline', id: props.part.id, outline: told.outline })
  if (refusal) throw refusal
  return told.notes
}
</script>

<template>
  <p class="bring">
    <label :for="id">Outline from a file (SVG, DXF)</label>
    <input :id="id" type="file" accept=".svg,.dxf,image/svg+xml" @change="bring" />
  </p>
  <p v-if="reading" class="notes" role="status">Reading {{ reading }} …</p>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <ul v-if="notes.length" class="notes" role="status"><li v-for="note in notes" :key="note">{{ note }}</li></ul>
</template>

<style scoped>
.bring { display: grid; gap: 2px; margin: 6px 0; color: var(--soft-ink); }
.notes { margin: 0 0 6px; padding-left: 16px; font-size: 12px; color: var(--soft-ink); }
</style>

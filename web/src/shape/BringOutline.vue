<script setup lang="ts">
import { ref } from 'vue'

import { sentence, type Part, type Schemas } from '../api/client'
import { checkSize } from '../api/limits'
import { reach } from '../api/reach'
import { useEdits } from '../state/edits'
import FileField from '../kit/FileField.vue'

/** Takes a part's outline from an SVG or DXF file; what was assumed, mended or left out is said beneath. */
const props = defineProps<{ part: Part }>()
const edits = useEdits()
const trouble = ref('')
const notes = ref<string[]>([])
const reading = ref('')

async function bring(file: File): Promise<void> {
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
  await checkSize(file, 'drawing')
  const answer = await reach('/api/outlines', { method: 'POST', body: file })
  const told = (await answer.json()) as Schemas['OutlineShown'] & { message?: string }
  if (!answer.ok) throw told
  const refusal = await edits.edit({ do: 'bring outline', sunk: [], id: props.part.id, outline: told.outline })
  if (refusal) throw refusal
  return told.notes
}
</script>

<template>
  <FileField label="Outline from a file (SVG, DXF)" accept=".svg,.dxf,image/svg+xml" :take="bring" />
  <p v-if="reading" class="notes" role="status">Reading {{ reading }} …</p>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <div v-if="notes.length" role="status"><ul class="notes"><li v-for="note in notes" :key="note">{{ note }}</li></ul></div>
</template>

<style scoped>
.notes { margin: 0 0 6px; padding-left: 16px; font-size: 12px; color: var(--soft-ink); }
</style>

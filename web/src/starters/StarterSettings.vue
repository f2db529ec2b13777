<script setup lang="ts">
import { computed } from 'vue'

import { useWorkshop, type Refusal } from '../stores/workshop'
import { useKinds, type Starter } from './kinds'
import StarterFields from './StarterFields.vue'

/** The starter that made a part: its numbers can be changed, and its parts follow. */
const props = defineProps<{ id: string }>()
const workshop = useWorkshop()
const kinds = useKinds()
const starter = computed(() => workshop.document?.starters.find((s) => s.id === props.id) ?? null)
const kind = computed(() => kinds.value.find((k) => k.key === starter.value?.kind) ?? null)
const notes = computed(() => workshop.shown?.starter_notes[props.id] ?? [])

function save(change: (starter: Starter) => Partial<Starter>): Promise<Refusal | null> {
  return workshop.edit((document) => {
    const found = document.starters.find((s) => s.id === props.id)
    return found ? { do: 'put starter', starter: { ...found, ...change(found) } } : null
  })
}
</script>

<template>
  <details v-if="starter && kind" class="starter" open>
    <summary>{{ kind.title }}, from a starter</summary>
    <StarterFields :kind="kind" :starter="starter" :stocks="workshop.document?.stocks ?? []" :save="save" />
    <p v-for="note in notes" :key="note" class="explain">{{ note }}</p>
    <p class="explain">Its parts follow these numbers; cut-outs, texts and joints that you add stay.
      <button type="button" class="plain-button" @click="workshop.change({ do: 'let go', id: starter.id })">Let go</button>
      <button type="button" class="plain-button" @click="workshop.change({ do: 'remove starter', id: starter.id })">Remove it with its parts</button>
    </p>
  </details>
</template>

<style scoped>
.starter { border-bottom: 1px solid var(--rule); padding-bottom: 8px; margin-bottom: 8px; }
summary { cursor: pointer; font-weight: 600; margin-bottom: 6px; }
.explain .plain-button + .plain-button { margin-left: 10px; }
.explain { color: var(--soft-ink); font-size: 12px; margin-top: 6px; }
</style>

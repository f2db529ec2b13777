<script setup lang="ts">
import { computed } from 'vue'

import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { useKinds, type Starter } from './kinds'
import StarterFields from './StarterFields.vue'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'

/** The starter that made a part: its numbers can be changed, and its parts follow. */
const props = defineProps<{ id: string }>()
const workshop = useWorkshop()
const edits = useEdits()
const kinds = useKinds()
const starter = computed(() => workshop.document?.starters.find((s) => s.id === props.id) ?? null)
const kind = computed(() => kinds.value.find((k) => k.key === starter.value?.kind) ?? null)
const facts = computed(() => workshop.shown?.starters[props.id] ?? null)

function save(change: (starter: Starter) => Partial<Starter>): Promise<Refusal | null> {
  return edits.edit((document) => {
    const found = document.starters.find((s) => s.id === props.id)
    return found ? { do: 'put starter', starter: { ...found, ...change(found) } } : null
  })
}
</script>

<template>
  <FoldSection v-if="starter && kind" class="starter" :title="`${kind.title}, from a starter`" name="starter">
    <StarterFields :kind="kind" :starter="starter" :begins="facts?.begins ?? {}" :stocks="workshop.document?.stocks ?? []" :save="save" />
    <p v-for="note in facts?.notes" :key="note" class="explain">{{ note }}</p>
    <p class="explain">Its parts follow these numbers; cut-outs, texts and joints that you add stay.
      <ActButton @click="edits.change({ do: 'let go', id: starter.id })">Let go</ActButton>
      <ActButton @click="edits.change({ do: 'remove starter', id: starter.id })">Remove it with its parts</ActButton>
    </p>
  </FoldSection>
</template>

<style scoped>
.starter { border-bottom: 1px solid var(--rule); padding-bottom: 8px; margin-bottom: 8px; }
.explain .act + .act { margin-left: 10px; }
.explain { color: var(--soft-ink); font-size: 12px; margin-top: 6px; }
</style>

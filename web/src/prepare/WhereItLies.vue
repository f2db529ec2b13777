<script setup lang="ts">
import { computed } from 'vue'

import type { Document, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import PlainField from '../kit/PlainField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** Where the sheet lies on the bed: which point of it at which coordinates of the machine, and how it is turned. */
const workshop = useWorkshop()
const edits = useEdits()

type OnBed = Document['preparation']['on_bed']
const on = computed(() => workshop.document?.preparation.on_bed ?? null)
const BY = ['the datum', 'bottom left', 'bottom right', 'top right', 'top left', 'mark'] as const
const NAMED = { 'the datum': 'its corner at the datum', mark: 'a mark on it' }

function put(change: Partial<OnBed>): Promise<Refusal | null> {
  return edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, on_bed: { ...preparation.on_bed, ...change } } }))
}

function place(which: 'x' | 'y' | 'mark_x' | 'mark_y', size: Size): Promise<Refusal | null> {
  return put({ [which]: size })
}
</script>

<template>
  <div v-if="on" class="stack">
    <ChoiceField label="Held by" :value="on.by" :options="BY" :names="NAMED" :save="(by) => void edits.told(put({ by }))" />
    <template v-if="on.by === 'mark'">
      <SizeField label="Mark, from the left" :size="on.mark_x" :save="(size) => place('mark_x', size)" />
      <SizeField label="Mark, from below" :size="on.mark_y" :save="(size) => place('mark_y', size)" />
    </template>
    <SizeField label="Lies at x" :size="on.x" :save="(size) => place('x', size)" />
    <SizeField label="Lies at y" :size="on.y" :save="(size) => place('y', size)" />
    <PlainField label="Turned by, degrees" :value="on.turn" :save="(text) => void edits.told(put({ turn: Number(text.replace(',', '.')) || 0 }))" />
  </div>
</template>

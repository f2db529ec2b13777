<script setup lang="ts">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** Copies that were cut on sheets that are gone: one that failed is counted as not cut again. */
const workshop = useWorkshop()
const edits = useEdits()

const copies = computed(() =>
  (workshop.document?.layout.done ?? []).flatMap((copy) => {
    const part = workshop.document?.parts.find(({ id }) => id === copy.part)
    return part ? [{ copy, name: part.count > 1 ? `${part.name} ${copy.copy_number}` : part.name }] : []
  }),
)
</script>

<template>
  <p v-for="{ copy, name } in copies" :key="name" class="in-line">{{ name }} <ActButton :aria-label="`Cut ${name} again`" @click="edits.change({ do: 'cut again', copies: [copy] })">Cut it again</ActButton></p>
</template>

<script setup lang="ts">
import { computed } from 'vue'

import type { Part, Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** What is set of all parts chosen in the rail: stock, count, turns, fit between them, heading. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()

type Set = Schemas['SetParts']
const parts = computed(() => workshop.document?.parts.filter((p) => picked.partIds.includes(p.id)) ?? [])
const stocks = computed(() => workshop.document?.stocks ?? [])

/** What all of them have alike, or nothing. */
function alike<T>(of: (part: Part) => T): T | null {
  const [first, ...rest] = parts.value.map(of)
  return first !== undefined && rest.every((one) => one === first) ? first : null
}

function set(change: Partial<Omit<Set, 'do' | 'ids'>>): void {
  void edits.change({ do: 'set parts', ids: picked.partIds, stock: null, count: null, turns: null, heading: null, fit: null, ...change })
}

async function remove(): Promise<void> {
  if (await edits.change({ do: 'remove parts', ids: picked.partIds })) picked.pick({ partId: workshop.document?.parts[0]?.id ?? null })
}
</script>

<template>
  <section class="many" aria-label="All chosen parts">
    <p class="in-line head">
      <strong>{{ parts.length }} parts chosen</strong>
      <ActButton @click="edits.change({ do: 'duplicate parts', ids: picked.partIds })">Duplicate</ActButton>
      <ActButton @click="remove">Delete</ActButton>
      <ActButton @click="picked.pick({ partId: picked.partId })">Let go</ActButton>
    </p>
    <ChoiceField label="Stock" :value="alike((p) => p.stock)" :options="stocks.map((s) => s.id)" :names="Object.fromEntries(stocks.map((s) => [s.id, s.name]))" empty="several" :save="(stock) => set({ stock })" />
    <PlainField label="How many of each" :value="alike((p) => p.count) ?? ''" :most="500" blank="several" :save="(count) => count && set({ count: Number(count) })" />
    <ChoiceField label="May lie" :value="alike((p) => p.turns)" :options="['grain', '180', '90', '45', 'any']" :names="{ grain: 'along the grain', '180': 'by half turns', '90': 'by quarter turns', '45': 'by eighths', any: 'any way' }" empty="several" :save="(turns) => set({ turns })" />
    <ChoiceField label="Fit between them" :value="null" :options="['project', 'loose', 'sliding', 'glue', 'press']" :names="{ project: 'as the project' }" empty="choose" :save="(fit) => set({ fit })" />
    <PlainField label="Heading" :value="alike((p) => p.heading) ?? ''" blank="none" :save="(heading) => set({ heading: heading.slice(0, 60) })" />
  </section>
</template>

<style scoped>
.many { position: absolute; left: 130px; bottom: 100%; width: 330px; z-index: 6; background: var(--paper); border: 1px solid var(--ink); border-bottom: 0; padding: 8px 12px; display: grid; gap: 3px; }
.head { gap: 12px; }
</style>

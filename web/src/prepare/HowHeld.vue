<script setup lang="ts">
import { computed } from 'vue'

import type { Document, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { spoken, type Prepared } from './prepared'

/** By how many holding tabs parts and large waste are held, and how cuts are begun. */
const props = defineProps<{ prepared: Prepared }>()
const workshop = useWorkshop()
const edits = useEdits()

type Preparation = Document['preparation']
const now = computed(() => workshop.document?.preparation ?? null)
const HOW = ['none', 'by count', 'by distance'] as const

function put(change: (preparation: Preparation) => Partial<Preparation>): Promise<Refusal | null> {
  return edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, ...change(preparation) } }))
}

function hold(change: Partial<Preparation['holding']>): Promise<Refusal | null> {
  return put(({ holding }) => ({ holding: { ...holding, ...change } }))
}

function size(field: 'every' | 'width' | 'waste' | 'height'): (size: Size) => Promise<Refusal | null> {
  return (typed) => hold({ [field]: typed })
}

function nameOf(id: string): string {
  return workshop.document?.parts.find((part) => part.id === id)?.name ?? id
}

/** What it costs to let webs cool, and what it gives. */
const cooled = computed(() => {
  const { cooled: found } = props.prepared
  if (!found) return ''
  if (!found.pairs) return 'No cuts on this sheet lie beside each other with a thin web between.'
  const costs = found.seconds >= 0.5 ? `${spoken(found.seconds)} more` : 'No more time'
  return `${costs}: ${found.soon} of ${found.pairs} neighbours follow within ${found.rests} s, ${found.else_soon} would else.`
})

const startsOf = computed(() => [...new Set(now.value?.starts.map(({ part }) => part) ?? [])])
</script>

<template>
  <div v-if="now" class="stack">
    <ChoiceField label="Holding tabs" :value="now.holding.how" :options="HOW" :save="(how) => void edits.told(hold({ how }))" />
    <PlainField v-if="now.holding.how === 'by count'" label="On each outline" :value="now.holding.count" :most="40" :save="(count) => void edits.told(hold({ count: Number(count) }))" />
    <SizeField v-if="now.holding.how === 'by distance'" label="One every" :size="now.holding.every" :save="size('every')" />
    <SizeField label="Wide" :size="now.holding.width" :save="size('width')" />
    <SizeField v-if="now.holding.how !== 'none'" label="Waste over, 0 none" :size="now.holding.waste" :save="size('waste')" />
    <template v-if="props.prepared.routed">
      <SizeField label="High, of the sheet" :size="now.holding.height" :save="size('height')" />
      <ChoiceField label="Their ends" :value="now.holding.ends" :options="['upright', 'sloping'] as const" :save="(ends) => void edits.told(hold({ ends }))" />
    </template>
    <p class="explain">{{ props.prepared.tabs.length ? `${props.prepared.tabs.length} holding tabs on this sheet${props.prepared.routed ? '' : ', as thick as the sheet'}.` : 'Nothing is held: all parts come free.' }}</p>
    <p v-for="{ part } in now.held" :key="part" class="explain">{{ nameOf(part) }}: tabs put by hand. <ActButton @click="edits.change({ do: 'let tabs go', part })">Let them go</ActButton></p>
    <SizeField v-if="!props.prepared.routed" label="Lead-in from the waste" :size="now.lead" :save="(lead) => put(() => ({ lead }))" />
    <ChoiceField v-if="!props.prepared.routed" label="Cuts begin" :value="now.begun" :options="['at corners', 'away from corners'] as const" :save="(begun) => void edits.told(put(() => ({ begun })))" />
    <TickField v-if="!props.prepared.routed" :value="now.cooling" :save="(cooling) => void edits.told(put(() => ({ cooling })))">Thin webs cool: cuts beside them are kept apart in time</TickField>
    <p v-if="cooled" class="explain">{{ cooled }}</p>
    <TickField v-if="!props.prepared.routed" :value="now.common_lines" :save="(common_lines) => void edits.told(put(() => ({ common_lines })))">Neighbours a kerf apart share their line: it is cut once</TickField>
    <p v-for="part in startsOf" :key="`s${part}`" class="explain">{{ nameOf(part) }}: begun where you put it. <ActButton @click="edits.change({ do: 'let starts go', part })">Let it go</ActButton></p>
  </div>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

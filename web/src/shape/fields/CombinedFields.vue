<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size } from '../../api/client'
import ActButton from '../../kit/ActButton.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import FoldSection from '../../kit/FoldSection.vue'
import SizeField from '../../kit/SizeField.vue'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import type { Refusal } from '../../state/refusal'
import { HOLES } from '../holes'
import { MORE, type ShapeProps } from './more'

/** The shapes that a combined one is made of, each as it was typed, and how it goes with those before it. */
type Member = Schemas['Member']
const props = defineProps<ShapeProps<Schemas['Combined']>>()
const picked = useChoice()
const edits = useEdits()
const rows = computed(() => props.hole.members.map((member, index) => ({ member, index, kind: HOLES[member.hole.kind] })))

function put(index: number, change: (member: Member) => Partial<Member>): Promise<Refusal | null> {
  return props.save({ members: props.hole.members.map((member, i) => (i === index ? { ...member, ...change(member) } : member)) })
}

function inHole(index: number, change: object): Promise<Refusal | null> {
  return put(index, ({ hole }) => ({ hole: { ...hole, ...change } as Member['hole'] }))
}

function size(member: Member, field: string): Size {
  return (member.hole as unknown as Record<string, Size>)[field] ?? { text: '0', unit: 'mm' }
}

function apart(): void {
  if (picked.partId && picked.cutoutId) void edits.change({ do: 'take apart', part: picked.partId, id: picked.cutoutId })
}
</script>

<template>
  <FoldSection v-for="{ member, index, kind } in rows" :key="index" :title="`${index + 1}. ${kind.name}`" folded>
    <div class="stack">
      <ChoiceField v-if="index" label="It is" :value="member.how" :options="['add', 'take away', 'in common']" :names="{ add: 'added', 'take away': 'taken away', 'in common': 'all that is kept' }" :save="(how) => void edits.told(put(index, () => ({ how })))" />
      <SizeField v-for="(name, field) in kind.sizes" :key="field" :label="name" :size="size(member, field)" :value="value(`members/${index}/hole/${field}`)" :bare="kind.angles?.includes(field)" :save="(typed) => inHole(index, { [field]: typed })" />
      <component :is="MORE[member.hole.kind]" v-if="MORE[member.hole.kind]" :hole="member.hole" :value="(field: string) => value(`members/${index}/hole/${field}`)" :save="(change: object) => inHole(index, change)" />
      <SizeField label="Across" :size="member.x" :value="value(`members/${index}/x`)" :save="(x) => put(index, () => ({ x }))" />
      <SizeField label="Up" :size="member.y" :value="value(`members/${index}/y`)" :save="(y) => put(index, () => ({ y }))" />
      <SizeField label="Turned by (degrees)" :size="member.turn" bare :save="(turn) => put(index, () => ({ turn }))" />
    </div>
  </FoldSection>
  <p><ActButton @click="apart">Take it apart</ActButton></p>
</template>

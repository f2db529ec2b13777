<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, Part } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import { freeId } from '../state/fresh'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { HOLES } from './holes'
import { useWorkshop } from '../state/workshop'
import { useMode } from './mode'
import { useShapes } from './shapes'

/** The shapes on a part: cut out, added, kept, sunk or marked; to be chosen by name, and new ones put there. */
const props = defineProps<{ part: Part }>()
const picked = useChoice()
const edits = useEdits()
const shapes = useShapes()
const mode = useMode()
const workshop = useWorkshop()

/** Adds a shape of a kind and chooses it. */
async function add(kind: CutOut['hole']['kind']): Promise<void> {
  const id = freeId('cut', props.part.cutouts)
  const of = kind === 'part' ? (other.value?.id ?? '') : ''
  if (await edits.change({ do: 'begin cut-out', part: props.part.id, id, kind, of, reference: false })) picked.pick({ cutoutId: id })
}

const other = computed(() => workshop.document?.parts.find((p) => p.id !== props.part.id))
/** Pictures are only laid under, and an outline of a part takes another part. */
const kinds = computed(() => Object.entries(HOLES).filter(([kind]) => kind !== 'picture' && kind !== 'combined' && (kind !== 'part' || other.value)) as [CutOut['hole']['kind'], { name: string }][])

function called(id: string): string {
  return picked.partShown?.cutouts.find((c) => c.id === id)?.called ?? id
}
</script>

<template>
  <h3>Cut-outs and other shapes on it</h3>
  <p class="in-line kinds">
    <ActButton v-for="[kind, hole] in kinds" :key="kind" @click="add(kind)">+ {{ hole.name }}</ActButton>
    <ActButton :pressed="mode.mode === 'draw a shape'" @click="mode.be('draw a shape')">+ By hand</ActButton>
  </p>
  <ul v-if="part.cutouts.length" class="cuts">
    <li v-for="one in part.cutouts" :key="one.id">
      <ActButton :pressed="shapes.chosen.has(one.id)" @click="shapes.choose(one.id, { more: $event.shiftKey })">
        {{ called(one.id) }}<template v-if="one.hidden"> (hidden)</template>
      </ActButton>
    </li>
  </ul>
  <p v-if="shapes.clipboard" class="in-line"><ActButton title="Key: Ctrl+V" @click="shapes.paste">Paste {{ shapes.clipboard.copied.length }} copied</ActButton></p>
</template>

<style scoped>
.kinds { gap: 3px 10px; font-size: 12.5px; }
.cuts { list-style: none; margin: 6px 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 12px; max-height: 150px; overflow-y: auto; }
.cuts [aria-pressed='true'] { color: var(--ink); font-weight: 650; text-decoration: none; }
</style>

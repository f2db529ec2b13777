<script setup lang="ts">
import { computed } from 'vue'

import type { Part } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import { freeId } from '../state/fresh'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { useShapes } from './shapes'

/** The shapes on a part: cut out, added, kept, sunk or marked; to be chosen by name; new ones lie below the drawing. */
const props = defineProps<{ part: Part }>()
const picked = useChoice()
const edits = useEdits()
const shapes = useShapes()
const workshop = useWorkshop()

const other = computed(() => workshop.document?.parts.find((p) => p.id !== props.part.id))

/** Adds the outline of another part and chooses it. */
async function addOutline(of: string): Promise<void> {
  const id = freeId('cut', props.part.cutouts)
  if (await edits.change({ do: 'begin cut-out', part: props.part.id, id, kind: 'part', of, reference: false })) picked.pick({ cutoutId: id })
}

function called(id: string): string {
  return picked.partShown?.cutouts.find((c) => c.id === id)?.called ?? id
}
</script>

<template>
  <h3>Cut-outs and other shapes on it</h3>
  <p v-if="other" class="in-line kinds"><ActButton @click="addOutline(other.id)">+ Outline of a part</ActButton></p>
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

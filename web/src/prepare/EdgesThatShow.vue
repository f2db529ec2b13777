<script setup lang="ts">
import { computed } from 'vue'

import type { Part } from '../api/client'
import TickField from '../kit/TickField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The parts of the sheet whose edges are seen: their cuts are begun on the waste, so that no mark of it stays. */
const workshop = useWorkshop()
const edits = useEdits()
const picked = useChoice()

const here = computed(() => {
  const lying = new Set(workshop.document?.layout.placements.filter(({ sheet }) => sheet === picked.sheet).map(({ part }) => part))
  return workshop.document?.parts.filter(({ id }) => lying.has(id)) ?? []
})

function change(part: Part, shows: boolean): void {
  void edits.told(edits.editPart(part.id, () => ({ shows })))
}
</script>

<template>
  <div class="stack">
    <TickField v-for="part in here" :key="part.id" :value="part.shows" :save="(shows) => change(part, shows)">{{ part.name }}</TickField>
    <p class="explain">Their cuts begin on the waste, as far off and at the side that the stock says under Measure. Where there is no room for that, they begin on their line.</p>
  </div>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

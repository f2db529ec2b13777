<script setup lang="ts">
import { computed } from 'vue'

import type { PartShown } from '../api/client'
import { useAddPart } from '../state/addPart'
import { tint } from '../look/tint'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'

/** Every part in one row at one scale, in the tint of its stock, with its count. */
const workshop = useWorkshop()
const picked = useChoice()
const add = useAddPart()

const HEIGHT = 66

const scale = computed(() => {
  const parts = workshop.shown?.parts ?? []
  return Math.min(HEIGHT / Math.max(1, ...parts.map((p) => p.height)), 190 / Math.max(1, ...parts.map((p) => p.width)))
})

const items = computed(() =>
  (workshop.document?.parts ?? []).map((part) => ({
    part,
    shown: workshop.shown?.parts.find((p) => p.id === part.id) ?? null,
    fill: tint(workshop.document?.stocks.find((s) => s.id === part.stock)),
  })),
)

function viewBox(shown: PartShown): string {
  return `-1 ${-shown.height - 1} ${shown.width + 2} ${shown.height + 2}`
}

function choose(id: string): void {
  picked.pick({ partId: id, cutoutId: null, stockId: null })
}
</script>

<template>
  <footer class="rail" aria-label="Parts">
    <ul>
      <li v-for="{ part, shown, fill } in items" :key="part.id">
        <ActButton look="bare"
          class="part"
          :class="{ chosen: part.id === picked.partId }"
          :pressed="part.id === picked.partId"
          :title="part.name"
          @click="choose(part.id)"
        >
          <svg v-if="shown" :width="(shown.width + 2) * scale" :height="(shown.height + 2) * scale" :viewBox="viewBox(shown)" aria-hidden="true">
            <path :d="shown.path" :fill="fill" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
          </svg>
          <span v-else class="broken">cannot be built</span>
          <span class="caption">{{ part.name }}<template v-if="part.count > 1"> × {{ part.count }}</template></span>
        </ActButton>
      </li>
      <li v-if="workshop.shown" class="adds">
        <ActButton look="ink" @click="add">Add a part</ActButton>
        <GoLink :to="{ path: '/starters', query: { into: workshop.shown?.slug } }">Add a starter</GoLink>
        <GoLink :to="`/projects/${workshop.shown.slug}/way-in`">Bring a drawing</GoLink>
      </li>
    </ul>
  </footer>
</template>

<style scoped>
.rail { border-top: 1px solid var(--ink); background: var(--paper); overflow-x: auto; overflow-y: hidden; }
ul { list-style: none; margin: 0; padding: 6px 12px; display: flex; gap: 4px; align-items: end; height: 100%; width: max-content; }
.adds { align-self: center; margin-left: 8px; white-space: nowrap; display: grid; gap: 6px; justify-items: center; }
.part { border: 0; background: none; padding: 4px 7px 2px; display: grid; justify-items: center; gap: 3px; cursor: pointer; border-bottom: 3px solid transparent; min-width: 76px; }
.part:hover { background: var(--ground); }
.part.chosen { border-bottom-color: var(--accent); }
.part.chosen .caption { color: var(--accent); font-weight: 600; }
svg { display: block; overflow: visible; }
path { stroke: var(--ink); stroke-width: 1; }
.caption { font-size: 11.5px; max-width: 120px; justify-self: center; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-stretch: 85%; }
.broken { color: var(--wrong); font-size: 11px; height: 40px; display: grid; align-items: center; }
</style>

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { PartShown } from '../api/client'
import { newPart } from '../parts/fresh'
import { tint } from '../parts/tint'
import { useWorkshop } from '../stores/workshop'

/** Every part in one row at one scale, in the tint of its stock, with its count. */
const workshop = useWorkshop()
const router = useRouter()
const route = useRoute()
const rail = ref<HTMLElement | null>(null)
const { width } = useElementSize(rail)

const HEIGHT = 66

const scale = computed(() => {
  const parts = workshop.shown?.parts ?? []
  const tallest = Math.max(1, ...parts.map((p) => p.height))
  const widest = Math.max(1, ...parts.map((p) => p.width))
  const all = parts.reduce((sum, part) => sum + part.width, 0)
  const room = Math.max(300, width.value - 130 - parts.length * 26)
  return Math.min(HEIGHT / tallest, 210 / widest, Math.max(room / Math.max(1, all), 0.08))
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
  workshop.partId = id
  workshop.cutoutId = null
  workshop.stockId = null
}

async function add(): Promise<void> {
  if (!workshop.document) return
  if (!workshop.document.stocks.length) {
    workshop.trouble = 'Add a stock first: a part is cut from one.'
    void router.push(`/projects/${String(route.params.slug)}/measure`)
    return
  }
  const part = newPart(workshop.document)
  if (await workshop.change({ do: 'put part', part })) {
    choose(part.id)
    void router.push(`/projects/${String(route.params.slug)}/shape`)
  }
}

defineExpose({ add })
</script>

<template>
  <footer ref="rail" class="rail" aria-label="Parts">
    <ul>
      <li v-for="{ part, shown, fill } in items" :key="part.id">
        <button
          type="button"
          class="part"
          :class="{ chosen: part.id === workshop.partId }"
          :aria-pressed="part.id === workshop.partId"
          :title="part.name"
          @click="choose(part.id)"
        >
          <svg v-if="shown" :width="(shown.width + 2) * scale" :height="(shown.height + 2) * scale" :viewBox="viewBox(shown)" aria-hidden="true">
            <path :d="shown.path" :fill="fill" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
          </svg>
          <span v-else class="broken">cannot be built</span>
          <span class="caption">{{ part.name }}<template v-if="part.count > 1"> × {{ part.count }}</template></span>
        </button>
      </li>
      <li><button type="button" class="ink-button" @click="add">Add a part</button></li>
    </ul>
  </footer>
</template>

<style scoped>
.rail { border-top: 1px solid var(--ink); background: var(--paper); overflow-x: auto; overflow-y: hidden; }
ul { list-style: none; margin: 0; padding: 6px 12px; display: flex; gap: 4px; align-items: end; height: 100%; }
li:last-child { align-self: center; margin-left: 8px; white-space: nowrap; }
.part { border: 0; background: none; padding: 4px 7px 2px; display: grid; justify-items: center; gap: 3px; cursor: pointer; border-bottom: 3px solid transparent; max-width: 230px; }
.part:hover { background: var(--ground); }
.part.chosen { border-bottom-color: var(--accent); }
.part.chosen .caption { color: var(--accent); font-weight: 600; }
svg { display: block; overflow: visible; }
path { stroke: var(--ink); stroke-width: 1; }
.caption { font-size: 11.5px; max-width: 130px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-stretch: 85%; }
.broken { color: var(--wrong); font-size: 11px; height: 40px; display: grid; align-items: center; }
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { away } from '../api/reach'
import { locate } from '../drawing/leaders'
import FactsLine from '../frame/FactsLine.vue'
import MarginNotes from '../frame/MarginNotes.vue'
import PartsRail from '../frame/PartsRail.vue'
import ShortcutSheet from '../frame/ShortcutSheet.vue'
import { STATIONS } from '../frame/stations'
import StationsList from '../frame/StationsList.vue'
import HandOverStation from '../stations/HandOverStation.vue'
import JoinStation from '../stations/JoinStation.vue'
import LayOutStation from '../stations/LayOutStation.vue'
import MeasureStation from '../stations/MeasureStation.vue'
import ProveStation from '../stations/ProveStation.vue'
import ShapeStation from '../stations/ShapeStation.vue'
import { useWorkshop } from '../stores/workshop'

const workshop = useWorkshop()
const route = useRoute()
const router = useRouter()
const keys = ref(false)

const PAGES = {
  measure: MeasureStation,
  shape: ShapeStation,
  join: JoinStation,
  'lay-out': LayOutStation,
  prove: ProveStation,
  'hand-over': HandOverStation,
}
const station = computed(() => PAGES[route.params.station as keyof typeof PAGES] ?? ShapeStation)

watch(() => String(route.params.slug), (slug) => void workshop.open(slug), { immediate: true })
watch(away, (gone) => { if (!gone) void workshop.open(String(route.params.slug)) })
watch(station, () => { locate.value = null })
watch(() => workshop.document?.name, (name) => { document.title = name ? `${name} · Lean Notch` : 'Lean Notch' })

function neighbour(by: number): void {
  const parts = workshop.document?.parts ?? []
  const at = parts.findIndex((p) => p.id === workshop.partId)
  const next = parts[(at + by + parts.length) % parts.length]
  if (next) {
    workshop.partId = next.id
    workshop.cutoutId = null
  }
}

useEventListener(window, 'keydown', (event) => {
  const typing = (event.target as HTMLElement).closest('input, textarea, select')
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !typing) {
    event.preventDefault()
    void workshop.step(event.shiftKey ? 'redo' : 'undo')
    return
  }
  if (typing || event.ctrlKey || event.metaKey) return
  const chosen = STATIONS[Number(event.key) - 1]
  if (chosen && event.key !== '0') void router.push(`/projects/${String(route.params.slug)}/${chosen.key}`)
  else if (event.key === '?') keys.value = true
  else if (event.key === 'd') workshop.seen = workshop.seen === 'drawing' ? 'dry fit' : 'drawing'
  else if (event.key === 'b') workshop.seen = workshop.seen === 'both' ? 'drawing' : 'both'
  else if (event.key === '.') neighbour(1)
  else if (event.key === ',') neighbour(-1)
})
</script>

<template>
  <div class="page">
    <FactsLine><button type="button" class="plain-button" title="Key: ?" @click="keys = true">Keys</button></FactsLine>
    <StationsList />
    <main v-if="workshop.shown" class="bench">
      <component :is="station">
        <MarginNotes />
      </component>
    </main>
    <main v-else class="empty">
      <p v-if="workshop.trouble">{{ workshop.trouble }}</p>
      <p v-else>Opening …</p>
      <RouterLink to="/">All projects</RouterLink>
    </main>
    <p v-if="workshop.trouble && workshop.shown" class="trouble" role="alert">
      {{ workshop.trouble }}
      <button type="button" class="plain-button" @click="workshop.trouble = ''">Understood</button>
    </p>
    <PartsRail />
    <ShortcutSheet v-model="keys" />
  </div>
</template>

<style scoped>
.page { height: 100vh; display: grid; grid-template: 46px minmax(0, 1fr) 108px / 118px minmax(0, 1fr); }
.page > :first-child { grid-column: 1 / -1; }
.page > :deep(.rail) { grid-column: 1 / -1; grid-row: 3; }
.bench { min-height: 0; min-width: 0; }
.trouble { position: fixed; top: 54px; left: 50%; transform: translateX(-50%); background: var(--wrong-wash); border: 1px solid var(--wrong); padding: 8px 14px; max-width: 640px; z-index: 20; display: flex; gap: 14px; }
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { sentence } from '../api/client'
import { away } from '../api/reach'
import { locate } from '../drawing/leaders'
import FactsLine from '../frame/FactsLine.vue'
import MarginNotes from '../frame/MarginNotes.vue'
import PartsRail from '../frame/PartsRail.vue'
import ShortcutSheet from '../find/ShortcutSheet.vue'
import { finding } from '../frame/finding'
import { isHeard } from '../frame/keys'
import { STATIONS } from '../frame/stations'
import StationsList from '../frame/StationsList.vue'
import { handbookIsOpen } from '../frame/handbook/open'
import HandOverStation from '../handover/HandOverStation.vue'
import JoinStation from '../join/JoinStation.vue'
import LayOutStation from '../layout/LayOutStation.vue'
import MeasureStation from '../measure/MeasureStation.vue'
import PrepareStation from '../prepare/PrepareStation.vue'
import ProveStation from '../prove/ProveStation.vue'
import ShapeStation from '../shape/ShapeStation.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import { onDropped } from '../kit/dropped'
import NoticeBar from '../kit/NoticeBar.vue'
import { useBring } from '../wayin/bring'

const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const route = useRoute()
const router = useRouter()
const keys = ref(false)

const PAGES = {
  measure: MeasureStation,
  shape: ShapeStation,
  join: JoinStation,
  'lay-out': LayOutStation,
  prepare: PrepareStation,
  prove: ProveStation,
  'hand-over': HandOverStation,
}
const station = computed(() => PAGES[route.params.station as keyof typeof PAGES] ?? ShapeStation)

watch(() => String(route.params.slug), (slug) => void workshop.open(slug), { immediate: true })
watch(away, (gone) => { if (!gone) void workshop.open(String(route.params.slug)) })
watch(() => workshop.shown?.only_seen, (why) => { if (why) workshop.say(why, false) })
watch(station, () => { locate.value = null })
watch(() => workshop.document?.name, (name) => { document.title = name ? `${name} · Lean Notch` : 'Lean Notch' })

function neighbour(by: number): void {
  const parts = workshop.document?.parts ?? []
  const at = parts.findIndex((p) => p.id === picked.partId)
  const next = parts[(at + by + parts.length) % parts.length]
  if (next) {
    picked.pick({ partId: next.id, cutoutId: null })
  }
}

const { bring } = useBring()

onDropped((files) => {
  bring(files, String(route.params.slug)).catch((fault: unknown) => workshop.say(sentence(fault)))
})

useEventListener(window, 'keydown', (event) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && isHeard(event)) {
    event.preventDefault()
    void edits.step(event.shiftKey ? 'redo' : 'undo')
    return
  }
  if (event.key === 'F1') {
    event.preventDefault()
    handbookIsOpen.value = !handbookIsOpen.value
    return
  }
  if (!isHeard(event) || event.ctrlKey || event.metaKey) return
  const chosen = STATIONS[Number(event.key) - 1]
  if (chosen && event.key !== '0') void router.push(`/projects/${String(route.params.slug)}/${chosen.key}`)
  else if (event.key === '?') keys.value = true
  else if (event.key === 'd') picked.pick({ seen: picked.seen === 'drawing' ? 'dry fit' : 'drawing' })
  else if (event.key === 'b') picked.pick({ seen: picked.seen === 'both' ? 'drawing' : 'both' })
  else if (event.key === '.') neighbour(1)
  else if (event.key === ',') neighbour(-1)
})
</script>

<template>
  <div class="page">
    <FactsLine />
    <StationsList>
      <ActButton title="Key: /" @click="finding = true">Find</ActButton>
      <ActButton title="Key: F1" :pressed="handbookIsOpen" @click="handbookIsOpen = !handbookIsOpen">Handbook</ActButton>
      <ActButton title="Key: ?" @click="keys = true">Keys</ActButton>
    </StationsList>
    <main v-if="workshop.shown" class="bench">
      <component :is="station">
        <MarginNotes />
      </component>
    </main>
    <main v-else class="empty">
      <p v-if="workshop.trouble">{{ workshop.trouble }}</p>
      <p v-else>Opening …</p>
      <GoLink to="/">All projects</GoLink>
    </main>
    <NoticeBar v-if="workshop.trouble && workshop.shown" :text="workshop.trouble" :wrong="workshop.wrong" @understood="workshop.say('')" />
    <PartsRail />
    <ShortcutSheet v-model="keys" />
  </div>
</template>

<style scoped>
.page { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) auto / 118px minmax(0, 1fr); }
.page > :deep(.facts) { grid-column: 1 / -1; }
.page > :deep(.rail) { grid-column: 1 / -1; grid-row: 3; }
.bench { min-height: 0; min-width: 0; }
/* Narrow, or much enlarged: one below the other, and the page scrolls. */
@media (max-width: 900px) {
  .page { height: auto; min-height: var(--page); grid-template: auto auto minmax(0, 1fr) auto / minmax(0, 1fr); }
  .page > :deep(.rail) { grid-row: 4; }
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import type { Finding } from '../api/client'
import { useWorkshop } from '../state/workshop'
import { STATIONS, stationOf } from './stations'
import GoLink from '../kit/GoLink.vue'

/** The stations in working order; each says whether something needs attention there. */
const workshop = useWorkshop()
const route = useRoute()

const waiting = computed(() => {
  const counts = new Map<string, number>()
  for (const finding of workshop.shown?.findings ?? []) {
    if ((finding as Finding).level === 'note') continue
    const station = stationOf(finding)
    counts.set(station, (counts.get(station) ?? 0) + 1)
  }
  return counts
})

function state(key: string): string {
  const count = waiting.value.get(key)
  if (count) return count === 1 ? '1 to mend' : `${count} to mend`
  if (key === 'lay-out' && workshop.shown?.layout_out_of_date) return workshop.shown.sheets.length ? 'out of date' : 'not done yet'
  return ''
}
</script>

<template>
  <nav class="stations" aria-label="Stations">
    <ol>
      <li v-for="(station, index) in STATIONS" :key="station.key">
        <GoLink
          :to="`/projects/${String(route.params.slug)}/${station.key}`"
          :aria-current="route.params.station === station.key ? 'page' : undefined"
          :title="`Key: ${index + 1}`"
        >
          {{ station.name }}
          <small v-if="state(station.key)">{{ state(station.key) }}</small>
        </GoLink>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
.stations { border-right: 1px solid var(--ink); background: var(--paper); }
ol { list-style: none; margin: 0; padding: 8px 0; }
a.go.el-link { display: block; padding: 9px 10px 9px 14px; color: var(--ink); text-decoration: none; font-size: 15px; font-stretch: 88%; border-left: 3px solid transparent; }
a.go.el-link:hover { background: var(--ground); }
a.go.el-link[aria-current] { border-left-color: var(--accent); color: var(--accent); font-weight: 650; background: var(--ground); }
small { display: block; color: var(--wrong); font-size: 11px; font-weight: 400; font-stretch: 92%; }
</style>

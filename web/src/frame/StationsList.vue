<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { useWorkshop } from '../state/workshop'
import { between } from './ready'
import { STATIONS } from './stations'
import GoLink from '../kit/GoLink.vue'

/** The stations in working order; each says whether something needs attention there. */
const workshop = useWorkshop()
const route = useRoute()

const told = computed(() => {
  const all = workshop.shown ? between(workshop.shown) : []
  return new Map(STATIONS.map(({ key }) => [key, all.filter(({ station }) => station === key).map(({ says }) => says).join(', ')]))
})
/** What the proof found good is said, as what is left to do is. */
const isProved = computed(() => workshop.shown?.proof?.now === true && !workshop.shown.proof.faults)
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
          <small v-if="told.get(station.key)">{{ told.get(station.key) }}</small>
          <small v-else-if="station.key === 'prove' && isProved" class="good">proved</small>
        </GoLink>
      </li>
    </ol>
    <div class="beside"><slot /></div>
  </nav>
</template>

<style scoped>
.stations { display: flex; flex-direction: column; justify-content: space-between; min-height: 0; border-right: 1px solid var(--ink); background: var(--paper); }
ol { list-style: none; margin: 0; padding: 8px 0; }
a.go.el-link { display: block; padding: 9px 10px 9px 14px; color: var(--ink); text-decoration: none; font-size: 15px; font-stretch: 88%; border-left: 3px solid transparent; }
a.go.el-link:hover { background: var(--ground); }
a.go.el-link[aria-current] { border-left-color: var(--accent); color: var(--accent); font-weight: 650; background: var(--ground); }
small { display: block; color: var(--wrong); font-size: 11px; font-weight: 400; font-stretch: 92%; }
small.good { color: var(--right); }
.beside { display: grid; gap: 6px; justify-items: start; padding: 10px 14px 14px 17px; font-size: 12.5px; }
@media (max-width: 900px) {
  .stations { flex-direction: row; align-items: center; overflow-x: auto; border-right: 0; border-bottom: 1px solid var(--ink); }
  ol { display: flex; padding: 0; }
  a.go.el-link { padding: 8px 10px; border-left: 0; border-bottom: 3px solid transparent; white-space: nowrap; }
  a.go.el-link[aria-current] { border-bottom-color: var(--accent); }
  .beside { display: flex; gap: 12px; padding: 8px 12px; }
}
</style>

<script setup lang="ts">
import { useRafFn, useResizeObserver } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Finding } from '../api/client'
import { locate } from '../drawing/leaders'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { stationOf } from './stations'
import ActButton from '../kit/ActButton.vue'

/** What the maker should know, as in a shop drawing's margin: each note has a leader to its place. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const router = useRouter()
const route = useRoute()
const list = ref<HTMLElement | null>(null)

const findings = computed(() => workshop.shown?.findings ?? [])

interface Leader {
  from: { x: number; y: number }
  to: { x: number; y: number }
}
const leaders = shallowRef<Leader[]>([])
let signature = ''

function draw(): void {
  const found: Leader[] = []
  const frame = list.value?.getBoundingClientRect()
  list.value?.querySelectorAll<HTMLElement>('li').forEach((item, index) => {
    const finding = findings.value[index]
    const to = finding && locate.value?.(finding.place)
    const at = item.getBoundingClientRect()
    if (!to || !frame || at.top + 10 < frame.top || at.top + 10 > frame.bottom) return
    found.push({ from: { x: at.left + 2, y: at.top + 12 }, to })
  })
  const now = JSON.stringify(found)
  if (now !== signature) {
    signature = now
    leaders.value = found
  }
}
useRafFn(draw)
useResizeObserver(list, draw)

function go(finding: Finding): void {
  const { place } = finding
  picked.pick({
    ...(place.part ? { partId: place.part } : {}),
    ...(place.kind === 'cut-out' ? { cutoutId: place.id } : {}),
    ...(place.kind === 'joint' ? { jointId: place.id } : {}),
    ...(place.kind === 'stock' ? { stockId: place.id } : {}),
    ...(place.kind === 'sheet' || place.kind === 'preparation' || place.kind === 'file' ? { sheet: Number(place.id) } : {}),
  })
  void router.push(`/projects/${String(route.params.slug)}/${stationOf(finding)}`)
}
</script>

<template>
  <aside class="margin" aria-label="Margin notes">
    <h3>Margin notes<span v-if="!findings.length && !workshop.shown?.looking" class="none">: nothing to mend.</span></h3>
    <p v-if="workshop.shown?.looking" class="none" role="status">Looking at how it goes together and how the machine does it …</p>
    <ol ref="list">
      <li v-for="(finding, index) in findings" :key="index" :class="finding.level">
        <ActButton look="bare" class="text" @click="go(finding)">{{ finding.text }}</ActButton>
        <span class="mends"><ActButton v-for="mend in finding.mends" :key="mend.label" @click="edits.mend(mend)">{{ mend.label }}</ActButton></span>
      </li>
    </ol>
    <Teleport to="body">
      <svg v-if="leaders.length" class="leaders" aria-hidden="true">
        <g v-for="(leader, index) in leaders" :key="index">
          <path :d="`M${leader.from.x} ${leader.from.y}H${leader.from.x - 14}L${leader.to.x} ${leader.to.y}`" />
          <circle :cx="leader.to.x" :cy="leader.to.y" r="5" />
        </g>
      </svg>
    </Teleport>
  </aside>
</template>

<style scoped>
.margin { border-top: 1px solid var(--rule); padding: 0 0 6px 12px; display: flex; flex-direction: column; min-height: 0; overflow: hidden; }
h3 { margin: 7px 0 6px; }
.none { color: var(--soft-ink); font-weight: 400; padding-right: 12px; }
.mends { display: flex; flex-wrap: wrap; gap: 2px 12px; }
ol { list-style: none; margin: 0; padding: 0 12px 0 0; overflow-y: auto; display: grid; gap: 8px; align-content: start; }
li { padding-left: 8px; border-left: 2px solid var(--soft-ink); font-size: 12.5px; overflow-wrap: anywhere; }
li.error, li.warning { border-left-color: var(--wrong); }
li.error .text { font-weight: 600; }
.text { border: 0; background: none; padding: 0; text-align: left; cursor: pointer; display: block; }
.text:hover { text-decoration: underline; }
.leaders { position: fixed; inset: 0; width: 100%; height: 100%; pointer-events: none; z-index: 5; }
.leaders path { fill: none; stroke: var(--wrong); stroke-width: 0.8; opacity: 0.6; }
.leaders circle { fill: none; stroke: var(--wrong); stroke-width: 1.2; }
</style>

<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import type { Part, PartShown } from '../api/client'
import { held } from '../drawing/fingers'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import TextInput from '../kit/TextInput.vue'
import { tint } from '../look/tint'
import { useAddPart } from '../state/addPart'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import ManyParts from './ManyParts.vue'

/**
 * Every part in one row at one scale, in the tint of its stock, with its count; many of them under headings. Where no
 * parts are edited it is one line of their names, so that the drawing has the room.
 */
const workshop = useWorkshop()
const picked = useChoice()
const add = useAddPart()

const HEIGHT = 66
/** With more parts than this they can be searched. */
const MANY = 12

/** Where parts are edited. */
const EDITED = ['shape', 'join']
const route = useRoute()
const byHand = useLocalStorage<Record<string, boolean>>('parts-in-one-line', {})
const station = computed(() => String(route.params.station))
const inOneLine = computed(() => byHand.value[station.value] ?? !EDITED.includes(station.value))

const wanted = ref('')
const folded = ref<string[]>([])

const scale = computed(() => {
  const parts = workshop.shown?.parts ?? []
  return Math.min(HEIGHT / Math.max(1, ...parts.map((p) => p.bounds.top - p.bounds.bottom)), 190 / Math.max(1, ...parts.map((p) => p.bounds.right - p.bounds.left)))
})

interface Item {
  part: Part
  shown: PartShown | null
  fill: string
}

const items = computed<Item[]>(() => {
  const shown = new Map(workshop.shown?.parts.map((p) => [p.id, p]))
  const fills = new Map(workshop.document?.stocks.map((s) => [s.id, tint(s)]))
  const words = wanted.value.trim().toLowerCase()
  return (workshop.document?.parts ?? [])
    .filter((part) => !words || part.name.toLowerCase().includes(words) || part.heading.toLowerCase().includes(words))
    .map((part) => ({ part, shown: shown.get(part.id) ?? null, fill: fills.get(part.stock) ?? tint(undefined) }))
})

/** The parts under their headings, in the order in which these come up; those under none come first. */
const sections = computed(() => {
  const under = new Map<string, Item[]>([['', []]])
  for (const item of items.value) under.set(item.part.heading, [...(under.get(item.part.heading) ?? []), item])
  return [...under].filter(([heading, found]) => heading || found.length).map(([heading, found]) => ({ heading, items: found, folded: folded.value.includes(heading) && !wanted.value }))
})

const many = computed(() => (workshop.document?.parts.length ?? 0) > MANY)
const chosen = computed(() => new Set(picked.partIds))

/** The box that a part is drawn in: all of it, and a little more. */
function viewBox({ bounds }: PartShown): { viewBox: string; width: number; height: number } {
  const width = bounds.right - bounds.left + 2
  const height = bounds.top - bounds.bottom + 2
  return { viewBox: `${bounds.left - 1} ${-bounds.top - 1} ${width} ${height}`, width: width * scale.value, height: height * scale.value }
}

/** A part that a finger is held on is chosen beside those that are; the click that follows chooses no more. */
let wasHeld = false
function rest(event: PointerEvent, id: string): void {
  wasHeld = false
  held(event, () => {
    wasHeld = true
    oneMore(id)
  })
}

function oneMore(id: string): void {
  const others = picked.partIds.filter((one) => one !== id)
  const ids = chosen.value.has(id) && others.length ? others : [...others, id]
  picked.pick({ partId: ids.at(-1) ?? id, partIds: ids, cutoutId: null, stockId: null })
}

/** Chooses a part; with Ctrl or Shift beside those that are: one more, or all up to it. */
function choose(event: MouseEvent, id: string): void {
  if (wasHeld) wasHeld = false
  else if (event.shiftKey && picked.partId) {
    const order = sections.value.flatMap((s) => s.items.map((i) => i.part.id))
    const [from, to] = [order.indexOf(picked.partId), order.indexOf(id)].sort((a, b) => a - b)
    picked.pick({ partId: id, partIds: order.slice(from, (to ?? 0) + 1), cutoutId: null, stockId: null })
  } else if (event.ctrlKey || event.metaKey) oneMore(id)
  else picked.pick({ partId: id, cutoutId: null, stockId: null })
}

function fold(heading: string): void {
  folded.value = folded.value.includes(heading) ? folded.value.filter((one) => one !== heading) : [...folded.value, heading]
}

watch(() => workshop.shown?.slug, () => { wanted.value = ''; folded.value = [] })
</script>

<template>
  <footer class="rail" :class="{ line: inOneLine }" aria-label="Parts">
    <ManyParts v-if="picked.partIds.length > 1" />
    <div v-if="many" class="find">
      <TextInput v-model="wanted" label="Find a part" placeholder="find a part" :most="60" />
      <span class="found" role="status">{{ items.length }} of {{ workshop.document?.parts.length }}</span>
    </div>
    <div class="row">
      <section v-for="section in sections" :key="section.heading" class="under">
        <ActButton v-if="section.heading" class="heading" :aria-expanded="!section.folded" @click="fold(section.heading)">{{ section.heading }}, {{ section.items.length }}{{ section.folded ? ' …' : '' }}</ActButton>
        <ul v-if="!section.folded">
          <li v-for="{ part, shown, fill } in section.items" :key="part.id">
            <ActButton look="bare"
              class="part"
              :class="{ chosen: part.id === picked.partId, also: chosen.has(part.id) }"
              :pressed="chosen.has(part.id)"
              :title="part.name"
              @pointerdown="rest($event, part.id)"
              @click="choose($event, part.id)"
            >
              <i v-if="inOneLine && shown" class="swatch" :style="{ background: fill }" aria-hidden="true"></i>
              <svg v-else-if="shown" v-bind="viewBox(shown)" aria-hidden="true">
                <path :d="shown.path" :fill="fill" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
                <path v-if="shown.pockets" class="pocket" :d="shown.pockets" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
              </svg>
              <span v-else class="broken">cannot be built</span>
              <span class="caption">{{ part.name }}<template v-if="part.count > 1"> × {{ part.count }}</template></span>
            </ActButton>
          </li>
        </ul>
      </section>
      <div v-if="workshop.shown" class="adds">
        <ActButton :look="inOneLine ? 'plain' : 'ink'" @click="add">Add a part</ActButton>
        <GoLink :to="{ path: '/starters', query: { into: workshop.shown?.slug } }">Add a starter</GoLink>
        <GoLink :to="`/projects/${workshop.shown.slug}/way-in`">Bring a drawing</GoLink>
      </div>
    </div>
    <ActButton class="manner" @click="byHand = { ...byHand, [station]: !inOneLine }">{{ inOneLine ? 'As pictures' : 'In one line' }}</ActButton>
  </footer>
</template>

<style scoped>
.rail { position: relative; border-top: 1px solid var(--ink); background: var(--paper); display: flex; min-width: 0; }
.rail { height: 108px; }
.rail.line { height: 38px; align-items: center; }
.line .row { padding: 0 12px; align-items: center; }
.line .under { display: flex; gap: 4px; align-items: center; }
.line .el-button.act.heading { align-self: center; }
.line ul { height: auto; align-items: center; }
.line .part { display: flex; gap: 5px; min-width: 0; padding: 4px 6px 1px; }
.line .part .caption { font-size: 12.5px; max-width: 180px; }
.line .adds { display: flex; gap: 14px; }
.line .find { display: flex; width: 220px; padding: 2px 8px; align-items: center; }
.swatch { width: 11px; height: 11px; border: 1px solid var(--ink); flex: none; }
.el-button.act.manner { flex: none; align-self: end; margin: 0 12px 8px; font-size: 11.5px; }
.find { flex: none; width: 118px; border-right: 1px solid var(--rule); padding: 10px 8px; display: grid; gap: 4px; align-content: start; }
.found { color: var(--soft-ink); font-size: 11.5px; }
.row { flex: 1; min-width: 0; overflow-x: auto; overflow-y: hidden; padding: 6px 12px; display: flex; gap: 4px; align-items: stretch; }
.under { display: grid; grid-template-rows: auto minmax(0, 1fr); align-items: end; }
.under + .under { border-left: 1px solid var(--rule); padding-left: 6px; }
.el-button.act.heading { font-size: 11px; min-height: 0; justify-self: start; white-space: nowrap; }
ul { grid-row: 2; list-style: none; margin: 0; padding: 0; display: flex; gap: 4px; align-items: end; height: 100%; width: max-content; }
.adds { align-self: center; margin-left: 8px; white-space: nowrap; display: grid; gap: 6px; justify-items: center; }
.part { border: 0; background: none; padding: 4px 7px 2px; display: grid; justify-items: center; gap: 3px; cursor: pointer; border-bottom: 3px solid transparent; min-width: 76px; }
.part:hover { background: var(--ground); }
.part.also { background: var(--accent-wash); }
.part.chosen { border-bottom-color: var(--accent); }
.part.chosen .caption { color: var(--accent); font-weight: 600; }
.part.chosen:not(.also) { background: none; }
svg { display: block; overflow: visible; }
path { stroke: var(--ink); stroke-width: 1; }
.pocket { fill: rgb(28 36 51 / 16%); stroke-width: 0.7; }
.caption { font-size: 11.5px; max-width: 120px; justify-self: center; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-stretch: 85%; }
.broken { color: var(--wrong); font-size: 11px; height: 40px; display: grid; align-items: center; }
.line .el-button.act.manner { align-self: center; margin: 0 12px; }
</style>

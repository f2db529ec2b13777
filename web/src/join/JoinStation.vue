<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch, watchEffect } from 'vue'

import type { Joint, PartShown, Schemas, Side } from '../api/client'
import { leadersTo } from '../drawing/leaders'
import RuledGround from '../drawing/RuledGround.vue'
import JointSettings from './JointSettings.vue'
import OfferedJoints from './OfferedJoints.vue'
import { freeId } from '../state/fresh'
import { FAMILIES } from './families/families'
import { sidesOf } from './sides'
import { tint } from '../look/tint'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import FitLedger from './FitLedger.vue'
import EmptyStation from '../frame/EmptyStation.vue'
import { isHeard } from '../frame/keys'
import StationFrame from '../frame/StationFrame.vue'
import ActButton from '../kit/ActButton.vue'

/** All parts side by side: pick two edges or two parts to join them. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)

const making = ref<Joint['kind'] | null>(null)
const first = ref<Pick | null>(null)

/** What is to be picked next for the joint that is being made: a side of a part, or a part as a whole. */
const wanted = computed(() => (making.value ? FAMILIES[making.value].picks[first.value ? 1 : 0] : null))

const GAP = 24

type Pick = Schemas['Pick']

interface Laid {
  shown: PartShown
  name: string
  fill: string
  x: number
  y: number
}

/** Parts in rows, as many to a row as keep the whole about as wide as the drawing. */
const laid = computed(() => {
  const parts = workshop.shown?.parts ?? []
  const area = parts.reduce((sum, part) => sum + (part.width + GAP) * (part.height + GAP), 0)
  const most = Math.max(Math.sqrt(area * 2.6), ...parts.map((p) => p.width))
  const found: Laid[] = []
  let x = 0
  let y = 0
  let tallest = 0
  for (const shown of parts) {
    if (x > 0 && x + shown.width > most) {
      x = 0
      y -= tallest + GAP
      tallest = 0
    }
    const part = workshop.document?.parts.find((p) => p.id === shown.id)
    found.push({ shown, name: part?.name ?? shown.id, fill: tint(workshop.document?.stocks.find((s) => s.id === shown.stock)), x, y: y - shown.height })
    x += shown.width + GAP
    tallest = Math.max(tallest, shown.height)
  }
  return found
})

const box = computed(() => ({
  left: 0,
  bottom: Math.min(-60, ...laid.value.map((l) => l.y)),
  right: Math.max(100, ...laid.value.map((l) => l.x + l.shown.width)),
  top: 0,
}))

const sides = computed(() => {
  const joint = picked.joint
  return joint ? sidesOf(joint).map((end) => `${end.part}/${end.side}`) : []
})

function sideClass(part: string, side: Side): Record<string, boolean> {
  const key = `${part}/${side}`
  return {
    chosen: sides.value.includes(key) || picked.pointed.some((one) => one.part === part && one.side === side),
    first: first.value?.part === part && first.value.side === side,
    pickable: wanted.value === 'side',
    joined: (workshop.document?.joints ?? []).some((j) => sidesOf(j).some((end) => `${end.part}/${end.side}` === key)),
  }
}

function begin(kind: Joint['kind']): void {
  making.value = making.value === kind ? null : kind
  first.value = null
}

function pickSide(part: string, side: Side): void {
  picked.pick({ partId: part })
  if (wanted.value === 'part') {
    pickPart(part)
    return
  }
  if (wanted.value) {
    take({ part, side })
    return
  }
  const joints = (workshop.document?.joints ?? []).filter((j) => sidesOf(j).some((end) => end.part === part && end.side === side))
  const at = joints.findIndex((j) => j.id === picked.jointId)
  const next = joints[(at + 1) % Math.max(1, joints.length)]
  if (next) picked.pick({ jointId: next.id })
}

function pickPart(part: string): void {
  picked.pick({ partId: part })
  if (wanted.value === 'part') take({ part, side: null })
}

function take(pick: Pick): void {
  if (first.value) void make(first.value, pick)
  else first.value = pick
}

async function make(a: Pick, b: Pick): Promise<void> {
  const kind = making.value
  first.value = making.value = null
  if (!kind || !workshop.document) return
  const id = freeId('joint', workshop.document.joints)
  if (await edits.change({ do: 'begin joint', id, kind, a, b })) picked.pick({ jointId: id })
}

const prompt = computed(() => (making.value ? FAMILIES[making.value].says[first.value ? 1 : 0] : ''))

/** As much of a name as fits under its part. */
function shortened(name: string, pixels: number): string {
  const letters = Math.max(5, Math.floor(pixels / 5.6))
  return name.length > letters ? `${name.slice(0, letters - 1)}…` : name
}

useEventListener(window, 'keydown', (event) => {
  if (!isHeard(event)) return
  if (event.key === 'Escape') {
    making.value = first.value = null
    picked.pick({ jointId: null })
  }
  if (event.key === 'Delete' && picked.jointId) void edits.change({ do: 'remove joint', id: picked.jointId })
})

watch(() => picked.jointId, (id) => {
  const joint = workshop.document?.joints.find((j) => j.id === id)
  if (joint && picked.partId !== joint.a.part && picked.partId !== joint.b.part) picked.pick({ partId: joint.a.part })
})

watchEffect(() => {
  const view = ground.value?.view
  if (!view) return
  const places = laid.value
  const joints = workshop.document?.joints ?? []
  const { toScreen } = view
  leadersTo(ground.value?.frame ?? null, (place) => {
    const item = places.find((l) => l.shown.id === place.part)
    if (!item) return null
    if (typeof place.x === 'number' && typeof place.y === 'number') return toScreen(item.x + place.x, item.y + place.y)
    const joint = joints.find((j) => j.id === place.id)
    const side = joint && item.shown.sides.find((s) => s.side === joint.a.side)
    return side ? toScreen(item.x + (side.x1 + side.x2) / 2, item.y + (side.y1 + side.y2) / 2) : null
  })
})
</script>

<template>
  <StationFrame title="Joints" fits>
    <template #drawing>
      <div class="split" :class="{ unjoined: !workshop.shown?.ledger.length }">
        <EmptyStation v-if="!laid.length" title="Nothing to join yet" says="Add two parts first; then pick the edges that meet." first="shape" />
        <RuledGround v-else ref="ground" :box="box" tight label="All parts, to be joined">
          <template #default="{ view }">
            <g :transform="view.place.value">
              <g v-for="item in laid" :key="item.shown.id" :transform="`translate(${item.x} ${-item.y})`">
                <path :aria-label="`Face of ${item.name}`" role="button" :tabindex="wanted === 'part' ? 0 : -1" @keydown.enter="pickPart(item.shown.id)" @keydown.space.prevent="pickPart(item.shown.id)" :d="item.shown.path" :fill="item.fill" fill-rule="evenodd" class="part" :class="{ crossing: wanted === 'part', first: (first?.part === item.shown.id && !first.side) || picked.pointed.some((one) => one.part === item.shown.id && !one.side) }" vector-effect="non-scaling-stroke" @pointerdown.stop="pickPart(item.shown.id)" />
                <path v-if="item.shown.pockets" :d="item.shown.pockets" class="pocket" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
                <line v-for="side in item.shown.sides" :key="`e${side.side}`" class="edge" :class="sideClass(item.shown.id, side.side)" :x1="side.x1" :y1="-side.y1" :x2="side.x2" :y2="-side.y2" vector-effect="non-scaling-stroke" />
                <line
                  v-for="side in item.shown.sides"
                  :key="side.side"
                  class="side"
                  :x1="side.x1"
                  :y1="-side.y1"
                  :x2="side.x2"
                  :y2="-side.y2"
                  vector-effect="non-scaling-stroke"
                  tabindex="0"
                  role="button"
                  :aria-label="`${side.side} edge of ${item.name}`"
                  @pointerdown.stop="pickSide(item.shown.id, side.side)"
                  @keydown.enter="pickSide(item.shown.id, side.side)"
                  @keydown.space.prevent="pickSide(item.shown.id, side.side)"
                />
              </g>
            </g>
            <text v-for="item in view.scale.value * GAP > 12 ? laid : []" :key="`n${item.shown.id}`" class="name" :x="view.toScreen(item.x, 0).x" :y="view.toScreen(0, item.y).y + 13">{{ shortened(item.name, item.shown.width * view.scale.value) }}</text>
          </template>
          <template #overlay>
            <p v-if="prompt" class="prompt" role="status">{{ prompt }} <ActButton @click="making = first = null">Leave it</ActButton></p>
          </template>
        </RuledGround>
        <FitLedger v-if="workshop.shown?.ledger.length" />
        <p v-else class="none">No joints yet: the ledger lists every opening and what goes into it.</p>
      </div>
    </template>
    <h2>Joints</h2>
    <p class="in-line makes">
      <ActButton v-for="(family, kind) in FAMILIES" :key="kind" look="ink" :pressed="making === kind" @click="begin(kind)">{{ family.name }}</ActButton>
    </p>
    <JointSettings />
    <OfferedJoints v-if="!making" />
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template: minmax(0, 1fr) minmax(150px, 34%) / minmax(0, 1fr); }
.split.unjoined { grid-template-rows: minmax(0, 1fr) auto; }
.none { margin: 0; padding: 7px 14px; border-top: 1px solid var(--rule); background: var(--paper); color: var(--soft-ink); font-size: 12px; }
.split > :last-child { border-top: 1px solid var(--ink); }
.part { stroke: var(--ink); stroke-width: 1.1; }
.part.crossing { cursor: pointer; }
.part.crossing:hover, .part.first { stroke: var(--accent); stroke-width: 2.4; }
.pocket { fill: rgb(28 36 51 / 16%); stroke: var(--ink); stroke-width: 0.9; stroke-dasharray: 3 2; pointer-events: none; }
.side { stroke: transparent; stroke-width: 9; cursor: pointer; outline: none; }
.side:hover { stroke: rgb(23 63 143 / 45%); }
.side:focus-visible { stroke: var(--accent); }
.edge { stroke: transparent; stroke-width: 1.6; pointer-events: none; }
.edge.joined { stroke: rgb(23 63 143 / 78%); }
.edge.pickable { stroke: rgb(23 63 143 / 78%); stroke-width: 3.4; }
.edge.chosen, .edge.first { stroke: var(--accent); stroke-width: 5; }
.name { font-size: 11px; fill: var(--soft-ink); }
.prompt { position: absolute; top: 26px; left: 34px; background: var(--accent); color: #fff; padding: 5px 10px; }
.prompt .act { color: #fff; margin-left: 10px; }
.makes { margin: 8px 0; }
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch, watchEffect } from 'vue'

import type { Document, Joint, PartShown, Side } from '../api/client'
import { leadersTo } from '../drawing/leaders'
import RuledGround from '../drawing/RuledGround.vue'
import JointSettings from '../joints/JointSettings.vue'
import { newCrossLap, newFinger, newHousing, newNuts, newSplice, newTabs, sidesOf } from '../joints/fresh'
import { tint } from '../parts/tint'
import { useWorkshop } from '../stores/workshop'
import FitLedger from './FitLedger.vue'
import StationFrame from './StationFrame.vue'

/** All parts side by side: pick two edges or two parts to join them. */
const workshop = useWorkshop()
const ground = ref<InstanceType<typeof RuledGround> | null>(null)

const KINDS: Record<Joint['kind'], string> = { finger: 'Finger joint', 'cross-lap': 'Cross-lap', 'tab-and-slot': 'Tab and slot', splice: 'Splice', 'captive-nut': 'Captive nut', housing: 'Butt or housing' }

const making = ref<Joint['kind'] | null>(null)
const first = ref<End | null>(null)

interface End {
  part: string
  side: Side
}

/** Joints that are made by picking two edges, and those of an edge on a face. */
const byEdges = computed(() => making.value === 'finger' || making.value === 'splice')
const byFace = computed(() => making.value === 'tab-and-slot' || making.value === 'captive-nut' || making.value === 'housing')

const GAP = 24

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
  const joint = workshop.joint
  return joint ? sidesOf(joint).map((end) => `${end.part}/${end.side}`) : []
})

function sideClass(part: string, side: Side): Record<string, boolean> {
  const key = `${part}/${side}`
  return {
    chosen: sides.value.includes(key),
    first: first.value?.part === part && first.value.side === side,
    pickable: byEdges.value || (byFace.value && !first.value),
    joined: (workshop.document?.joints ?? []).some((j) => sidesOf(j).some((end) => `${end.part}/${end.side}` === key)),
  }
}

function begin(kind: Joint['kind']): void {
  making.value = making.value === kind ? null : kind
  first.value = null
}

function pickSide(part: string, side: Side): void {
  workshop.partId = part
  if (byEdges.value) {
    if (!first.value) first.value = { part, side }
    else void make({ part, side })
    return
  }
  if (byFace.value && !first.value) {
    first.value = { part, side }
    return
  }
  if (making.value) {
    pickPart(part)
    return
  }
  const joints = (workshop.document?.joints ?? []).filter((j) => sidesOf(j).some((end) => end.part === part && end.side === side))
  const at = joints.findIndex((j) => j.id === workshop.jointId)
  const next = joints[(at + 1) % Math.max(1, joints.length)]
  if (next) workshop.jointId = next.id
}

function pickPart(part: string): void {
  workshop.partId = part
  if (making.value === 'cross-lap' && !first.value) first.value = { part, side: 'top' }
  else if (first.value && !byEdges.value) void make({ part, side: 'bottom' })
}

async function make(second: End): Promise<void> {
  const document = workshop.document
  const start = first.value
  const kind = making.value
  first.value = null
  making.value = null
  if (!document || !start || !kind) return
  const shown = (id: string): PartShown | undefined => workshop.shown?.parts.find((p) => p.id === id)
  const a = shown(start.part)
  const b = shown(second.part)
  if (!a || !b) return
  const joint = made(kind, document, start, second, a, b)
  if (await workshop.change({ do: 'put joint', joint })) workshop.jointId = joint.id
}

function made(kind: Joint['kind'], document: Document, start: End, second: End, a: PartShown, b: PartShown): Joint {
  if (kind === 'finger') return newFinger(document, start, second)
  if (kind === 'cross-lap') return newCrossLap(document, a, b)
  const edge = start.side === 'left' || start.side === 'right' ? a.height : a.width
  if (kind === 'splice') return newSplice(document, start, edge, second)
  if (kind === 'housing') return newHousing(document, start, edge, b)
  return kind === 'captive-nut' ? newNuts(document, start, edge, b) : newTabs(document, start, edge, b)
}

const prompt = computed(() => {
  if (making.value === 'finger') return first.value ? 'Pick the edge that meets it.' : 'Pick the first edge of the finger joint.'
  if (making.value === 'splice') return first.value ? 'Pick the edge that gets the sockets.' : 'Pick the edge that gets the keys.'
  if (making.value === 'tab-and-slot') return first.value ? 'Pick the part whose face the tabs go through.' : 'Pick the edge that gets the tabs.'
  if (making.value === 'captive-nut') return first.value ? 'Pick the part that is screwed on.' : 'Pick the edge that gets the nuts.'
  if (making.value === 'housing') return first.value ? 'Pick the part whose face it stands on.' : 'Pick the edge that stands on a face.'
  if (making.value === 'cross-lap') return first.value ? 'Pick the part that crosses it.' : 'Pick the first part: its slot opens at the top.'
  return ''
})

/** As much of a name as fits under its part. */
function shortened(name: string, pixels: number): string {
  const letters = Math.max(5, Math.floor(pixels / 5.6))
  return name.length > letters ? `${name.slice(0, letters - 1)}…` : name
}

useEventListener(window, 'keydown', (event) => {
  if ((event.target as HTMLElement).closest('input, select, textarea')) return
  if (event.key === 'Escape') {
    making.value = first.value = null
    workshop.jointId = null
  }
  if (event.key === 'Delete' && workshop.jointId) void workshop.change({ do: 'remove joint', id: workshop.jointId })
})

watch(() => workshop.jointId, (id) => {
  const joint = workshop.document?.joints.find((j) => j.id === id)
  if (joint && workshop.partId !== joint.a.part && workshop.partId !== joint.b.part) workshop.partId = joint.a.part
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
      <div class="split">
        <div v-if="!laid.length" class="empty"><h2>Nothing to join yet</h2><p>Add two parts first; then pick the edges that meet.</p></div>
        <RuledGround v-else ref="ground" :box="box" label="All parts, to be joined">
          <template #default="{ view }">
            <g :transform="view.place.value">
              <g v-for="item in laid" :key="item.shown.id" :transform="`translate(${item.x} ${-item.y})`">
                <path :aria-label="`Face of ${item.name}`" role="button" :tabindex="making && !byEdges ? 0 : -1" @keydown.enter="pickPart(item.shown.id)" :d="item.shown.path" :fill="item.fill" fill-rule="evenodd" class="part" :class="{ crossing: making === 'cross-lap' || (byFace && first), first: making === 'cross-lap' && first?.part === item.shown.id }" vector-effect="non-scaling-stroke" @pointerdown.stop="pickPart(item.shown.id)" />
                <path v-if="item.shown.pockets" :d="item.shown.pockets" class="pocket" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
                <line
                  v-for="side in item.shown.sides"
                  :key="side.side"
                  class="side"
                  :class="sideClass(item.shown.id, side.side)"
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
                />
              </g>
            </g>
            <text v-for="item in view.scale.value * GAP > 12 ? laid : []" :key="`n${item.shown.id}`" class="name" :x="view.toScreen(item.x, 0).x" :y="view.toScreen(0, item.y).y + 13">{{ shortened(item.name, item.shown.width * view.scale.value) }}</text>
          </template>
          <template #overlay>
            <p v-if="prompt" class="prompt" role="status">{{ prompt }} <button type="button" class="plain-button" @click="making = first = null">Leave it</button></p>
          </template>
        </RuledGround>
        <FitLedger />
      </div>
    </template>
    <h2>Joints</h2>
    <p class="in-line makes">
      <button v-for="(name, kind) in KINDS" :key="kind" type="button" class="ink-button" :class="{ on: making === kind }" :aria-pressed="making === kind" @click="begin(kind)">{{ name }}</button>
    </p>
    <JointSettings />
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: minmax(0, 1fr) minmax(150px, 34%); }
.split > :last-child { border-top: 1px solid var(--ink); }
.part { stroke: var(--ink); stroke-width: 1.1; }
.part.crossing { cursor: pointer; }
.part.crossing:hover, .part.first { stroke: var(--accent); stroke-width: 2.4; }
.pocket { fill: rgb(28 36 51 / 16%); stroke: var(--ink); stroke-width: 0.9; stroke-dasharray: 3 2; pointer-events: none; }
.side { stroke: transparent; stroke-width: 9; cursor: pointer; outline: none; }
.side.joined { stroke: rgb(23 63 143 / 10%); }
.side.pickable { stroke: rgb(23 63 143 / 22%); }
.side:hover { stroke: rgb(23 63 143 / 45%); }
.side:focus-visible { stroke: var(--accent); }
.side.chosen, .side.first { stroke: var(--accent); stroke-width: 4; }
.name { font-size: 11px; fill: var(--soft-ink); }
.prompt { position: absolute; top: 26px; left: 34px; background: var(--accent); color: #fff; padding: 5px 10px; }
.prompt .plain-button { color: #fff; margin-left: 10px; }
.makes { margin: 8px 0; }
</style>

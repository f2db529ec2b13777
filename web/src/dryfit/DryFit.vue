<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Size } from '../api/client'
import { withUnit } from '../kit/units'
import { tint } from '../look/tint'
import { typeInPlace, type Driven } from '../starters/inPlace'
import { useRun } from '../state/run'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { copyName, same, type CopyRef } from './explain'
import { spanLabels } from './labels'
import { VIEWS, type AssemblyScene, type DryFit, type Showing } from './scene'
import SpanLabels from './SpanLabels.vue'
import { useScene } from './useScene'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import SpanSlider from '../kit/SpanSlider.vue'
import TickField from '../kit/TickField.vue'
import ProgressBar from '../kit/ProgressBar.vue'

/** The parts put together in space, as their joints hold them: turned, pulled apart, checked, assembled step by step. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const frame = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const fit = shallowRef<DryFit | null>(null)
const apart = ref(0)
const hidden = ref<Set<string>>(new Set())
const step = ref(-1)
const sizes = ref(true)
const check = useRun('fit')
let scene: AssemblyScene | null = null
const { width, height, trouble, drawn, turnBy } = useScene(frame, canvas, (begun) => {
  scene = begun
  void load()
})
let looked = ''

const steps = computed(() => check.run.value?.fit?.steps ?? [])
const found = computed(() => (check.run.value?.fit?.version === workshop.shown?.version ? check.run.value?.fit : null))
const stopped = computed(() => check.run.value?.state === 'stopped')
const clashes = computed(() => found.value?.clashes ?? [])
const now = computed(() => (found.value ? steps.value[step.value] : undefined))

const key = (copy: CopyRef): string => `${copy.part}/${copy.number}`
const tints = computed(() =>
  Object.fromEntries((workshop.document?.parts ?? []).map((part) => [part.id, tint(workshop.document?.stocks.find((s) => s.id === part.stock))])),
)

/** How far each copy is moved when everything is pulled apart: away from the middle of what it holds together with. */
const away = computed(() => {
  const groups = new Map(fit.value?.copies.map((copy) => [key(copy), copy.group]))
  return scene?.awayFromMiddles((copy) => groups.get(key(copy)) ?? 0) ?? new Map<string, [number, number, number]>()
})

function showing(part: string, number: number): Showing {
  const copy = { part, number }
  const pointed = picked.pointed
  const chosen = pointed.length ? pointed.some((one) => one.part === part) : part === picked.partId
  const wrong = clashes.value.some((clash) => !clash.promised && (same(clash.a, copy) || same(clash.b, copy)))
  if (now.value) {
    const moving = now.value.moving.some((other) => same(other, copy))
    const there = moving || now.value.standing.some((other) => same(other, copy))
    const back = moving ? -(now.value.distance + 14) * apart.value : 0
    const [x = 0, y = 0, z = 0] = now.value.direction
    return { shift: [x * back, y * back, z * back], chosen: moving, hidden: !there }
  }
  const [x, y, z] = away.value.get(key(copy)) ?? [0, 0, 0]
  const by = apart.value * 1.1
  return { shift: [x * by, y * by, z * by], chosen, hidden: hidden.value.has(key(copy)), wrong }
}

function showAll(): void {
  scene?.show(showing)
}

async function load(): Promise<void> {
  const slug = workshop.shown?.slug
  if (!slug || !scene) return
  const { data, error } = await client.GET('/api/projects/{slug}/dry-fit', { params: { path: { slug } } })
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  trouble.value = ''
  scene.take(data, tints.value)
  fit.value = data
  await nextTick()
  showAll()
  if (looked !== slug) look('Corner')
  looked = slug
}

/** Fits the assembly of the chosen part into the frame, or the largest one; of a step, everything in it. */
function look(name: keyof typeof VIEWS): void {
  const copies = fit.value?.copies ?? []
  const size = (group: number): number => copies.filter((copy) => copy.group === group).length
  const chosen = copies.find((copy) => copy.part === picked.partId && size(copy.group) > 1)?.group ?? 0
  const main = new Set(copies.filter((copy) => copy.group === chosen).map(key))
  scene?.look(VIEWS[name], now.value ? undefined : (part, number) => main.size < 2 || main.has(key({ part, number })))
}

function lookAtAll(): void {
  scene?.look(VIEWS.Corner)
}

async function checkFit(): Promise<void> {
  step.value = -1
  if (workshop.shown) await check.start(workshop.shown.slug)
}

function go(to: number): void {
  step.value = Math.max(-1, Math.min(steps.value.length - 1, to))
  apart.value = step.value < 0 ? 0 : 1
  void nextTick(() => {
    showAll()
    if (step.value >= 0) look('Corner')
  })
}

function hide(): void {
  const next = new Set(hidden.value)
  for (const copy of fit.value?.copies ?? []) if (copy.part === picked.partId) next.add(key(copy))
  hidden.value = next
}

/** Headings that parts are listed under; those of one are hidden and shown together. */
const headings = computed(() => [...new Set(workshop.document?.parts.map((p) => p.heading).filter(Boolean))].sort())

function copiesUnder(heading: string): string[] {
  const ids = new Set(workshop.document?.parts.filter((p) => p.heading === heading).map((p) => p.id))
  return (fit.value?.copies ?? []).filter((copy) => ids.has(copy.part)).map(key)
}

function isShown(heading: string): boolean {
  return copiesUnder(heading).some((one) => !hidden.value.has(one))
}

function showUnder(heading: string, on: boolean): void {
  const next = new Set(hidden.value)
  for (const one of copiesUnder(heading)) if (on) next.delete(one)
    else next.add(one)
  hidden.value = next
}

// Pressing without dragging picks a part.
let pressed = { x: 0, y: 0 }

function release(event: PointerEvent): void {
  if (Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > 4) return
  const at = frame.value?.getBoundingClientRect()
  const copy = at && scene?.pick(event.clientX - at.left, event.clientY - at.top)
  if (copy) {
    picked.pick({ partId: copy.part, cutoutId: null })
  }
}

function keyed(event: KeyboardEvent): void {
  if (turnBy(event) || event.key !== '0') return
  look('Corner')
  event.preventDefault()
  event.stopPropagation()
}

const labels = computed(() => {
  void drawn.value
  return fit.value && scene && sizes.value && apart.value === 0 && step.value < 0 ? spanLabels(scene, fit.value, workshop.unit) : []
})

/** A size of a starter, typed where it stands. */
function put(driven: Driven, size: Size): Promise<Refusal | null> {
  const starter = workshop.document?.starters.find((one) => one.id === driven.starter)
  return typeInPlace(starter, driven, size, (changed) => edits.edit({ do: 'put starter', starter: changed }))
}

const rings = computed(() => {
  void drawn.value
  const at = scene
  return at && step.value < 0 && apart.value === 0 ? clashes.value.map((clash) => ({ ...at.project(clash.middle), promised: clash.promised })) : []
})

watch(() => [workshop.shown?.slug, workshop.shown?.version], () => {
  step.value = -1
  void load()
})
watch([apart, hidden, () => picked.partId, () => picked.pointed, step, clashes], showAll)
</script>

<template>
  <div class="dry-fit">
    <div ref="frame" class="space" tabindex="0" role="group" aria-label="The parts put together" @keydown="keyed" @pointerdown="pressed = { x: $event.clientX, y: $event.clientY }" @pointerup="release">
      <canvas ref="canvas"></canvas>
      <SpanLabels :labels="labels" :width="width" :height="height" :put="put" />
      <svg v-if="rings.length" class="rings" :width="width" :height="height" aria-hidden="true">
        <circle v-for="(ring, index) in rings" :key="index" class="ring" :class="{ promised: ring.promised }" :cx="ring.x" :cy="ring.y" r="9" />
      </svg>
      <p v-if="fit && !fit.copies.length" class="says">No part can be drawn yet.</p>
      <p v-if="trouble" class="says" role="alert">{{ trouble }}</p>
    </div>
    <div class="below">
      <p class="in-line">
        <span class="soft">Look from</span>
        <ActButton v-for="(_, name) in VIEWS" :key="name" @click="look(name)">{{ name.toLowerCase() }}</ActButton>
        <ActButton @click="lookAtAll">everything</ActButton>
        <span class="apart"><span aria-hidden="true">Pulled apart</span> <SpanSlider v-model="apart" label="Pulled apart" /></span>
        <TickField :value="sizes" :save="(now) => { sizes = now }">sizes</TickField>
        <ActButton @click="hide">Hide {{ picked.part?.name ?? 'part' }}</ActButton>
        <ActButton v-if="hidden.size" @click="hidden = new Set()">Show all</ActButton>
      </p>
      <p v-if="headings.length" class="in-line">
        <span class="soft">Shown</span>
        <TickField v-for="heading in headings" :key="heading" :value="isShown(heading)" :save="(on) => showUnder(heading, on)">{{ heading }}</TickField>
      </p>
      <div class="in-line">
        <ActButton v-if="!check.going.value" look="ink" @click="checkFit">Check the fit</ActButton>
        <template v-else>
          <ProgressBar class="checking" label="Checking the fit" :done="check.run.value?.progress ?? 0" :ahead="check.run.value?.ahead" />
          <ActButton look="ink" :disabled="check.stopping.value" @click="check.stop">{{ check.stopping.value ? 'Stopping …' : 'Stop' }}</ActButton>
        </template>
        <span v-if="stopped" role="status">Stopped before all was checked.</span>
        <template v-if="found">
          <span role="status" :class="{ wrong: clashes.some((c) => !c.promised) }">
            <template v-if="!stopped && !clashes.length">No part is in another's way.</template>
            <template v-for="(clash, index) in clashes.slice(0, 3)" :key="index">{{ copyName(workshop.document, clash.a) }} and {{ copyName(workshop.document, clash.b) }} {{ clash.promised ? 'press into each other' : 'clash' }}, {{ withUnit(clash.deep, workshop.unit) }} deep. </template>
            <template v-if="clashes.length > 3">And {{ clashes.length - 3 }} more.</template>
            <template v-if="found.loose.length"> Nothing holds {{ found.loose.slice(0, 3).map((copy) => copyName(workshop.document, copy)).join(', ') }}<template v-if="found.loose.length > 3"> and {{ found.loose.length - 3 }} more</template>.</template>
            <template v-for="(copies, index) in found.locked" :key="`l${index}`"> No straight move takes {{ copies.map((copy) => copyName(workshop.document, copy)).join(', ') }} apart.</template>
          </span>
          <span v-if="steps.length" class="in-line steps">
            <ActButton look="ink" :disabled="step < 0" aria-label="Step before" @click="go(step - 1)">◂</ActButton>
            <strong v-if="now">Step {{ step + 1 }} of {{ steps.length }}: {{ now.text }}</strong>
            <span v-else>Put together in {{ steps.length }} {{ steps.length === 1 ? 'step' : 'steps' }}</span>
            <ActButton look="ink" :disabled="step >= steps.length - 1" aria-label="Next step" @click="go(step + 1)">▸</ActButton>
            <ActButton v-if="step >= 0" @click="go(-1)">All</ActButton>
            <FileLink :href="`/api/runs/${check.run.value?.id}/assembly-sheet`">Assembly sheet (PDF)</FileLink>
          </span>
        </template>
      </div>
      <p v-if="check.trouble.value" class="why" role="alert">{{ check.trouble.value }}</p>
    </div>
  </div>
</template>

<style scoped>
.dry-fit { height: 100%; display: grid; grid-template-rows: minmax(0, 1fr) auto; background: var(--ground); }
.space { position: relative; overflow: hidden; min-height: 0; touch-action: none; }
.space:focus-visible { outline-offset: -2px; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; display: block; outline: none; }
.rings { position: absolute; inset: 0; pointer-events: none; }
.ring { fill: none; stroke: var(--wrong); stroke-width: 2; }
.ring.promised { stroke: var(--soft-ink); stroke-dasharray: 3 2; }
.below { border-top: 1px solid var(--ink); padding: 6px 12px 8px; display: grid; gap: 6px; }
.in-line { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: center; }
.soft { color: var(--soft-ink); }
.apart { display: flex; gap: 14px; align-items: center; }
.apart .span-slider { width: 130px; }
.checking { width: 160px; }
.wrong { color: var(--wrong); }
.says { position: absolute; left: 30%; top: 45%; }
</style>

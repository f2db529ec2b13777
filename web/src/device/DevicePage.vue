<script setup lang="ts">
import { useIntervalFn, useRafFn } from '@vueuse/core'
import { computed, onMounted, reactive, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import { FORMATS } from '../api/tables'
import RuledGround from '../drawing/RuledGround.vue'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import { onDropped } from '../kit/dropped'
import FileField from '../kit/FileField.vue'
import PlainField from '../kit/PlainField.vue'
import ProgressBar from '../kit/ProgressBar.vue'
import { placeAt } from '../prepare/player'
import { spoken } from '../prepare/prepared'
import { send, type DeviceShown } from './send'

const formats = Object.values(FORMATS)

/** The simulated machine: what lies on its bed, what it does with the file in it, and where its head is. */
const shown = shallowRef<DeviceShown | null>(null)
const moves = shallowRef<Schemas['Played'] | null>(null)
const trouble = ref('')
/** When the state was told, to go on from by this page's own clock. */
const told = ref(0)
const now = ref(0)

async function take(call: Promise<{ data?: DeviceShown; error?: unknown }>): Promise<void> {
  const { data, error } = await call
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  trouble.value = ''
  shown.value = data
  told.value = performance.now()
}

/** Which machine it is; at first that which the address names, or that which was given a file last. */
const of = ref('')
const asked = computed(() => ({ query: { of: of.value } }))

async function look(): Promise<void> {
  const { data } = await client.GET('/api/device', { params: asked.value })
  if (!data || (of.value && data.of !== of.value)) return
  of.value = data.of
  shown.value = data
  told.value = performance.now()
}

function turnTo(machine: string): Promise<void> {
  of.value = machine
  return look()
}
const named = useRoute().query.machine
onMounted(async () => {
  await look()
  const wanted = shown.value?.machines.find(({ called }) => called === named)
  if (wanted) await turnTo(wanted.of)
})
useIntervalFn(() => { if (shown.value?.state === 'running') void look() }, 500)

watch(() => shown.value?.run, async () => {
  const { data } = await client.GET('/api/device/moves', { params: asked.value })
  moves.value = data ?? null
})

/** How far the run has come at this moment, between two answers of the machine. */
const gone = computed(() => {
  const state = shown.value
  if (!state) return 0
  if (state.state !== 'running') return state.gone
  return Math.min(state.seconds, state.gone + ((now.value - told.value) / 1000) * state.times)
})
useRafFn(() => { if (shown.value?.state === 'running') now.value = Math.max(told.value, performance.now()) })

const begun = computed(() => ['running', 'paused', 'stopped', 'done', 'alarm'].includes(shown.value?.state ?? ''))
const at = computed(() => (begun.value ? placeAt(moves.value, gone.value) : null))
const head = computed(() => at.value ?? { x: shown.value?.origin_x ?? 0, y: shown.value?.origin_y ?? 0 })
/** The head as the machine counts. */
const counted = computed(() => {
  const state = shown.value
  if (!state) return { x: 0, y: 0 }
  const [x, y] = [head.value.x - state.datum_x, head.value.y - state.datum_y]
  return { x: state.profile.x_runs === 'right' ? x : -x, y: state.profile.y_runs === 'up' ? y : -y }
})
/** What a cutter is doing at this moment, as the machine has worked it out. */
const routed = computed(() => (moves.value?.z.length ?? 0) > 0)
const now_ = computed(() => {
  const all = moves.value
  const move = at.value?.move ?? 0
  return { chip: at.value ? (all?.chip[move] ?? 0) : 0, engaged: at.value ? (all?.engaged[move] ?? 0) : 0 }
})
const inSpindle = computed(() => shown.value?.laid.cutters[shown.value.cutter - 1] ?? null)
const depth = computed(() => {
  const all = moves.value
  if (!all || !at.value) return 0
  const from = at.value.move ? (all.z[at.value.move - 1] ?? 0) : 0
  return from + ((all.z[at.value.move] ?? 0) - from) * at.value.share
})
const line = computed(() => (at.value ? moves.value?.job[at.value.move] : shown.value?.line) ?? 0)
const left = computed(() => Math.max(0, (shown.value?.seconds ?? 0) - gone.value))

/** All lines that are worked, as far as a move; arcs by a few chords. */
function pathTo(last: number, from = 0): string {
  const all = moves.value
  if (!all) return ''
  const words: string[] = []
  let down = false
  for (let move = from; move <= last && move < all.ends.length; move++) {
    if (!all.on[move]) {
      down = false
      continue
    }
    const before = move - 1
    if (!down) words.push(`M${before < 0 ? 0 : all.x[before]} ${-(before < 0 ? 0 : (all.y[before] ?? 0))}`)
    down = true
    const steps = all.turn[move] ? 12 : 1
    const began = move ? (all.ends[before] ?? 0) : 0
    for (let step = 1; step <= steps; step++) {
      const place = placeAt(all, began + (((all.ends[move] ?? 0) - began) * step) / steps)
      if (place) words.push(`L${place.x.toFixed(2)} ${(-place.y).toFixed(2)}`)
    }
  }
  return words.join('')
}
const planned = computed(() => pathTo(Infinity))
/** What is done, in pieces of many moves, so that a frame only draws the last of them anew. */
const PIECE = 200
const donePieces = reactive<string[]>([])
watch(() => shown.value?.run, () => { donePieces.length = 0 })
const last = computed(() => (at.value ? at.value.move - 1 : -1))
const whole = computed(() => Math.floor((last.value + 1) / PIECE))
watch(whole, (count) => {
  donePieces.length = Math.min(donePieces.length, count)
  for (let piece = donePieces.length; piece < count; piece++) donePieces.push(pathTo((piece + 1) * PIECE - 1, piece * PIECE))
})
const rest = computed(() => pathTo(last.value, whole.value * PIECE))

const box = computed(() => ({ left: 0, bottom: 0, right: shown.value?.bed_width ?? 600, top: shown.value?.bed_height ?? 400 }))
const STATES: Record<string, string> = { off: 'switched on, not homed', ready: 'ready', running: 'running', paused: 'paused', done: 'done', alarm: 'stopped by an alarm', stopped: 'stopped' }
const TIMES = [1, 5, 10, 50, 200]

async function dropped(file: File): Promise<void> {
  try {
    shown.value = await send(file.name, file, shown.value?.profile ?? null, null)
    trouble.value = ''
  } catch (error) {
    trouble.value = sentence(error)
  }
}
onDropped(([file]) => { if (file) void dropped(file) })

const datum = reactive({ x: '0', y: '0' })
function takeDatum(): void {
  void take(client.POST('/api/device/datum', { params: asked.value, body: { x: Number(datum.x) || 0, y: Number(datum.y) || 0 } }))
}

function jog(x: number, y: number): void {
  const state = shown.value
  if (!state) return
  const next = { x: Number(datum.x) + x, y: Number(datum.y) + y }
  Object.assign(datum, { x: String(next.x), y: String(next.y) })
  takeDatum()
}

function layDown(change: Partial<Schemas['Laid']>): void {
  const laid = shown.value?.laid
  if (laid) void take(client.POST('/api/device/sheet', { params: asked.value, body: { ...laid, ...change } }))
}

function number(text: string): number {
  return Number(text.replace(',', '.')) || 0
}
</script>

<template>
  <main class="device">
    <PageHead :title="`Simulated machine: ${shown?.profile.name ?? '…'}`">
      <p class="state" :class="shown?.state" role="status">{{ STATES[shown?.state ?? ''] ?? '' }}{{ shown?.name ? `, ${shown.name}` : ', no file' }}</p>
    </PageHead>
    <RuledGround v-if="shown" :box="box" label="The bed of the simulated machine">
      <template #default="{ view }">
        <g :transform="view.place.value">
          <rect class="bed" x="0" :y="-shown.bed_height" :width="shown.bed_width" :height="shown.bed_height" vector-effect="non-scaling-stroke" />
          <polygon v-if="shown.sheet.length" class="sheet-edge" :points="shown.sheet.map(({ x, y }) => `${x},${-y}`).join(' ')" vector-effect="non-scaling-stroke" />
          <polygon v-for="(area, index) in [...shown.keep_outs, ...shown.laid.clips]" :key="index" class="keep-out" :points="area.map(({ x, y }) => `${x},${-y}`).join(' ')" vector-effect="non-scaling-stroke" />
          <path class="planned" :d="planned" vector-effect="non-scaling-stroke" />
          <template v-if="begun">
            <path v-for="(piece, index) in donePieces" :key="`d${index}`" class="done" :d="piece" vector-effect="non-scaling-stroke" />
            <path class="done" :d="rest" vector-effect="non-scaling-stroke" />
          </template>
        </g>
        <g class="head" :transform="`translate(${view.toScreen(head.x, 0).x} ${view.toScreen(0, head.y).y})`"><circle r="7" /><path d="M-13 0h26M0 -13v26" /></g>
      </template>
    </RuledGround>
    <aside v-if="shown" aria-label="The machine's panel">
      <p v-if="trouble || shown.trouble" class="why" role="alert">{{ trouble || shown.trouble }}</p>
      <p v-for="alarm in shown.alarms" :key="alarm.line" class="why alarm" role="alert">ALARM at line {{ alarm.line }}: {{ alarm.text }}. The file is still in the machine.</p>
      <div v-if="shown.wanted" class="waits" role="alert">
        <p>The program waits for cutter <strong>T{{ shown.wanted }}</strong>; T{{ shown.cutter }} is in.</p>
        <ActButton look="main" @click="take(client.POST('/api/device/cutter', { params: asked }))">Cutter T{{ shown.wanted }} is in</ActButton>
      </div>
      <ChoiceField v-if="shown.machines.length > 1" label="Machine" :value="shown.of" :options="shown.machines.map((one) => one.of)" :names="Object.fromEntries(shown.machines.map((one) => [one.of, one.called]))" :save="(one) => void turnTo(one)" />
      <dl>
        <dt>x</dt><dd>{{ counted.x.toFixed(2) }} mm</dd>
        <dt>y</dt><dd>{{ counted.y.toFixed(2) }} mm</dd>
        <template v-if="routed">
          <dt>z</dt><dd>{{ depth.toFixed(2) }} mm</dd>
          <dt>Cutter</dt><dd>T{{ shown.cutter }}{{ inSpindle ? `, ${inSpindle.width.toFixed(2)} mm` : '' }}</dd>
          <dt>A tooth takes</dt><dd>{{ now_.chip.toFixed(3) }} mm</dd>
          <dt>Engaged</dt><dd>{{ now_.engaged.toFixed(1) }} mm wide</dd>
        </template>
        <dt>Line</dt><dd>{{ line }}</dd>
        <dt>Gone</dt><dd>{{ spoken(gone) }}</dd>
        <dt>Left</dt><dd>{{ spoken(left) }}</dd>
      </dl>
      <ProgressBar label="The run" :done="shown.seconds ? gone / shown.seconds : 0" />
      <p class="in-line acts">
        <ActButton look="ink" @click="take(client.POST('/api/device/home', { params: asked }))">Home</ActButton>
        <ActButton v-if="shown.state === 'running'" look="main" @click="take(client.POST('/api/device/pause', { params: asked }))">Pause</ActButton>
        <ActButton v-else-if="shown.state === 'paused'" look="main" @click="take(client.POST('/api/device/go-on', { params: asked }))">Go on</ActButton>
        <ActButton v-else look="main" @click="take(client.POST('/api/device/start', { params: asked, body: { doing: 'program' } }))">Start</ActButton>
        <ActButton v-if="shown.state === 'running' || shown.state === 'paused'" look="ink" @click="take(client.POST('/api/device/stop', { params: asked }))">Stop</ActButton>
      </p>
      <p class="in-line">Walk round
        <ActButton @click="take(client.POST('/api/device/start', { params: asked, body: { doing: 'box' } }))">the box</ActButton>
        <ActButton @click="take(client.POST('/api/device/start', { params: asked, body: { doing: 'hull' } }))">the hull</ActButton>
      </p>
      <ChoiceField label="Runs at" :value="shown.times" :options="TIMES" :names="Object.fromEntries(TIMES.map((times) => [times, `${times} × real time`]))" :save="(times) => take(client.POST('/api/device/times', { params: asked, body: { times } }))" />
      <h2>Datum of programs</h2>
      <div class="stack">
        <PlainField label="x, mm" :value="datum.x" :save="(text) => { datum.x = text }" />
        <PlainField label="y, mm" :value="datum.y" :save="(text) => { datum.y = text }" />
      </div>
      <p class="in-line">
        <ActButton @click="takeDatum">Take it there</ActButton>
        <ActButton aria-label="Jog − x" @click="jog(-10, 0)">− x</ActButton>
        <ActButton aria-label="Jog + x" @click="jog(10, 0)">+ x</ActButton>
        <ActButton aria-label="Jog − y" @click="jog(0, -10)">− y</ActButton>
        <ActButton aria-label="Jog + y" @click="jog(0, 10)">+ y</ActButton>
      </p>
      <h2>Sheet on the bed</h2>
      <div class="stack">
        <PlainField label="Width, mm" :value="shown.laid.width" :save="(text) => layDown({ width: number(text) })" />
        <PlainField label="Height, mm" :value="shown.laid.height" :save="(text) => layDown({ height: number(text) })" />
        <PlainField label="From the left, mm" :value="shown.laid.x" :save="(text) => layDown({ x: number(text) })" />
        <PlainField label="From below, mm" :value="shown.laid.y" :save="(text) => layDown({ y: number(text) })" />
        <PlainField label="Thickness, mm" :value="shown.laid.thickness" :save="(text) => layDown({ thickness: number(text) })" />
        <PlainField label="Turned by, degrees" :value="shown.laid.turn" :save="(text) => layDown({ turn: number(text) })" />
      </div>
      <FileField :label="`Put a file in (${formats.map(({ called }) => called).join(', ')})`" :accept="formats.flatMap(({ endings }) => endings.map((one) => `.${one}`)).join()" :take="dropped" />
      <h2>Log</h2>
      <ol class="log" aria-label="Log"><li v-for="(entry, index) in [...shown.log].reverse()" :key="index">{{ entry }}</li></ol>
    </aside>
  </main>
</template>

<style scoped>
.device { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) / minmax(0, 1fr) 306px; }
.state { font-weight: 600; }
.state.running { color: var(--accent); }
.state.alarm { color: var(--wrong); }
.state.done { color: var(--right); }
aside { border-left: 1px solid var(--ink); padding: 10px 12px; overflow-y: auto; background: var(--ground); }
dl { display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; margin: 4px 0 8px; font-size: 15px; }
dt { color: var(--soft-ink); }
dd { margin: 0; text-align: right; font-weight: 550; }
.acts { margin: 10px 0; }
.waits { border: 1px solid var(--accent); padding: 8px 10px; margin-bottom: 8px; }
.alarm { font-weight: 600; margin-bottom: 8px; }
.log { list-style: none; margin: 0; padding: 0; font-size: 12px; color: var(--soft-ink); }
.bed { fill: #ece5d6; stroke: var(--soft-ink); stroke-width: 1; stroke-dasharray: 8 3; pointer-events: none; }
.sheet-edge { fill: var(--paper); stroke: var(--ink); stroke-width: 1; pointer-events: none; }
.keep-out { fill: var(--ink); fill-opacity: 0.5; stroke: var(--ink); }
.planned { fill: none; stroke: var(--rule); stroke-width: 1; pointer-events: none; }
.done { fill: none; stroke: var(--ink); stroke-width: 1.4; pointer-events: none; }
.head { pointer-events: none; }
.head circle, .head path { fill: none; stroke: var(--wrong); stroke-width: 1.6; }
@media (max-width: 900px) {
  .device { height: auto; grid-template: auto max(300px, 74vh) auto / minmax(0, 1fr); }
  aside { border-left: 0; border-top: 1px solid var(--ink); }
}
</style>

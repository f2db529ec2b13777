<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Bend, type Part, type Schemas, type Size } from '../../api/client'
import { spanLabels } from '../../dryfit/labels'
import { VIEWS, type AssemblyScene } from '../../dryfit/scene'
import SpanLabels from '../../dryfit/SpanLabels.vue'
import { useScene } from '../../dryfit/useScene'
import ActButton from '../../kit/ActButton.vue'
import { withUnit } from '../../kit/units'
import { tint } from '../../look/tint'
import { useEdits } from '../../state/edits'
import type { Refusal } from '../../state/refusal'
import { useWorkshop } from '../../state/workshop'
import { useBends } from './bends'
import TypedHere from './TypedHere.vue'

/** One part folded: its legs and angles typed or dragged where they stand, and how its faces stand to one another. */
const props = defineProps<{ part: Part }>()
const workshop = useWorkshop()
const edits = useEdits()
const bends = useBends()
const frame = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const folded = shallowRef<Schemas['FoldedShown'] | null>(null)
/** The meshes of the faces that are compared, the one chosen last at the end. */
const faces = ref<string[]>([])
const dragged = ref<{ id: string; angle: number } | null>(null)
let scene: AssemblyScene | null = null
const { width, height, trouble, drawn, turnBy } = useScene(frame, canvas, (begun) => {
  scene = begun
  void load()
})
let looked = ''

const typed = computed(() => Object.fromEntries(props.part.bends.map((bend) => [bend.id, bend])) as Record<string, Bend>)

async function load(): Promise<void> {
  const slug = workshop.shown?.slug
  if (!slug || !scene) return
  const params = { path: { slug, part_id: props.part.id } }
  const { data, error } = await client.GET('/api/projects/{slug}/parts/{part_id}/folded', { params })
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  trouble.value = ''
  const colour = tint(workshop.document?.stocks.find((stock) => stock.id === props.part.stock))
  scene.take(data, Object.fromEntries(data.meshes.map((mesh) => [mesh.part, colour])))
  folded.value = data
  const known = new Set(data.faces.map((face) => face.mesh))
  faces.value = faces.value.filter((face) => known.has(face))
  // What was turned further meanwhile stays so until its own answer comes.
  const turned = dragged.value
  const fold = data.folds.find(({ id }) => id === turned?.id)
  if (!turned || !fold || Math.abs(fold.angle - turned.angle) < 1e-6) dragged.value = null
  await nextTick()
  show()
  if (fold && turned && dragged.value) scene.turnAbout(new Set(fold.turns), fold.point, fold.axis, turned.angle - fold.angle)
  if (looked !== props.part.id) scene.look(VIEWS.Corner)
  looked = props.part.id
}

function show(): void {
  scene?.show((mesh) => ({ shift: [0, 0, 0], chosen: faces.value.includes(mesh) || mesh.startsWith(`${bends.chosen?.id} `), hidden: false }))
}

/** What the chosen faces say of one another. */
const between = computed(() => {
  const all = folded.value?.faces ?? []
  const [one, other] = faces.value.map((mesh) => all.findIndex((face) => face.mesh === mesh))
  if (one === undefined) return 'Press two faces to see how they stand to one another.'
  if (other === undefined) return `${all[one]?.called}: press another face to compare it with.`
  const angle = all[one]?.angles[other] ?? 0
  const says = angle < 0.01 ? 'level with one another, looking the same way' : angle > 179.99 ? 'level with one another, back to back' : Math.abs(angle - 90) < 0.01 ? 'square to one another' : 'not level'
  return `${all[one]?.called} and ${all[other]?.called}: ${Number(angle.toFixed(2))}°, ${says}.`
})

const order = computed(() => {
  const names = Object.fromEntries(folded.value?.folds.map((fold) => [fold.id, fold.called]) ?? [])
  const found = folded.value?.order ?? []
  return found.length ? `Bent in this order: ${found.map((id) => names[id]).join(', ')}.` : ''
})

const labels = computed(() => {
  void drawn.value
  const fit = folded.value
  return fit && scene && !dragged.value ? spanLabels(scene, { version: 0, meshes: [], copies: [], overall: fit.overall, inner: [] }, workshop.unit) : []
})

interface Number {
  key: string
  label: string
  text: string
  bend: Bend
  size: Size
  field: 'angle' | 'length'
  at: { x: number; y: number }
}

const numbers = computed(() => {
  void drawn.value
  const at = scene
  if (!folded.value || !at || at.turning) return []
  return folded.value.folds.flatMap((fold): Number[] => {
    const bend = typed.value[fold.id]
    if (!bend) return []
    const angle = dragged.value?.id === fold.id ? dragged.value.angle : fold.angle
    const found: Number[] = [{ key: `${fold.id} angle`, label: `Angle of ${fold.called}`, text: `${Number(angle.toFixed(2))}°`, bend, size: bend.angle, field: 'angle', at: at.project(fold.at) }]
    const { leg } = fold
    const face = folded.value?.faces.find(({ mesh }) => mesh === leg?.mesh)
    if (leg && face) {
      const middle = at.project(face.middle)
      const label = bend.kind === 'flange' ? `Length of ${fold.called}` : `Leg before ${fold.called}`
      const text = `${withUnit(leg.length, workshop.unit)}${leg.measured === 'outside' ? '' : ` ${leg.measured}`}`
      found.push({ key: `${fold.id} leg`, label, text, bend, size: bend.length, field: 'length', at: { x: middle.x, y: middle.y - 16 } })
    }
    return found
  })
})

function put({ bend, field }: Number, size: Size): Promise<Refusal | null> {
  return bends.type(bend, { [field]: size })
}

const handles = computed(() => {
  void drawn.value
  const at = scene
  if (!folded.value || !at || at.turning) return []
  return folded.value.folds.flatMap((fold) => {
    const face = folded.value?.faces.find((one) => one.mesh === fold.turns[0])
    const bend = typed.value[fold.id]
    if (!face || !bend || !bends.turns(bend)) return []
    const angle = dragged.value?.id === fold.id ? dragged.value.angle : fold.angle
    return [{ fold, face, at: at.project(at.turnedPoint(face.middle, fold.point, fold.axis, angle - fold.angle)) }]
  })
})

type Handle = (typeof handles.value)[number]

/** Turns what hangs on a bend as it is dragged; the sheet itself is worked out anew once it is let go. */
function turnTo({ fold }: Handle, angle: number): void {
  dragged.value = { id: fold.id, angle }
  scene?.turnAbout(new Set(fold.turns), fold.point, fold.axis, angle - fold.angle)
}

function drag(event: PointerEvent, handle: Handle): void {
  const at = frame.value?.getBoundingClientRect()
  if (!scene || !at || event.buttons !== 1) return
  const to = { x: event.clientX - at.left, y: event.clientY - at.top }
  let best = { angle: handle.fold.angle, far: Infinity }
  for (let angle = 0; angle <= 170; angle++) {
    const seen = scene.project(scene.turnedPoint(handle.face.middle, handle.fold.point, handle.fold.axis, angle - handle.fold.angle))
    const far = Math.hypot(seen.x - to.x, seen.y - to.y)
    if (far < best.far) best = { angle, far }
  }
  turnTo(handle, best.angle)
}

function grab(event: PointerEvent, { fold }: Handle): void {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  bends.choose(fold.id)
}

async function drop(): Promise<void> {
  const now = dragged.value
  const bend = now && typed.value[now.id]
  if (!now || !bend) return
  if (!(await edits.told(bends.type(bend, { angle: { text: String(now.angle), unit: 'mm' } })))) {
    dragged.value = null
    scene?.turnAbout(new Set(), [0, 0, 0], [0, 0, 1], 0)
    show()
  }
}

function step(event: KeyboardEvent, handle: Handle): void {
  const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const angle = Math.max(0, Math.min(170, Math.round(dragged.value?.angle ?? handle.fold.angle) + by))
  turnTo(handle, angle)
}


// Pressing without dragging chooses a face, or a bend.
let pressed = { x: 0, y: 0 }

function release(event: PointerEvent): void {
  if (Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > 4) return
  const at = frame.value?.getBoundingClientRect()
  const mesh = at && scene?.pick(event.clientX - at.left, event.clientY - at.top)?.part
  if (!mesh) return
  const fold = folded.value?.folds.find((one) => mesh.startsWith(`${one.id} `))
  if (fold) bends.choose(fold.id)
  else compare(mesh)
}

function compare(mesh: string): void {
  faces.value = faces.value.includes(mesh) ? faces.value.filter((one) => one !== mesh) : [...faces.value.slice(-1), mesh]
}

watch(() => [props.part.id, workshop.shown?.slug, workshop.shown?.version], load)
watch([faces, () => bends.chosen], show)
</script>

<template>
  <div class="folded">
    <div ref="frame" class="space" tabindex="0" role="group" :aria-label="`${part.name} folded`" @keydown="turnBy" @pointerdown="pressed = { x: $event.clientX, y: $event.clientY }" @pointerup="release">
      <canvas ref="canvas"></canvas>
      <SpanLabels :labels="labels" :width="width" :height="height" />
      <TypedHere v-for="one in numbers" :key="one.key" :label="one.label" :text="one.text" :size="one.size" :bare="one.field === 'angle'" :x="one.at.x" :y="one.at.y" :save="(size) => put(one, size)" />
      <svg class="handles" :width="width" :height="height">
        <circle
          v-for="handle in handles" :key="handle.fold.id" :cx="handle.at.x" :cy="handle.at.y" r="6" tabindex="0" role="slider"
          :aria-label="`Turn ${handle.fold.called}`" aria-valuemin="0" aria-valuemax="170" :aria-valuenow="dragged?.id === handle.fold.id ? dragged.angle : handle.fold.angle"
          @pointerdown.stop="grab($event, handle)" @pointermove="drag($event, handle)" @pointerup.stop="drop" @keydown="step($event, handle)" @keyup="drop"
        ><title>Drag to turn {{ handle.fold.called }}</title></circle>
      </svg>
      <p v-if="trouble" class="says" role="alert">{{ trouble }}</p>
    </div>
    <div class="below">
      <p class="in-line">
        <span class="soft">Look from</span>
        <ActButton v-for="(_, name) in VIEWS" :key="name" @click="scene?.look(VIEWS[name])">{{ name.toLowerCase() }}</ActButton>
        <span class="soft">Faces</span>
        <ActButton v-for="face in folded?.faces ?? []" :key="face.mesh" :pressed="faces.includes(face.mesh)" @click="compare(face.mesh)">{{ face.called }}</ActButton>
      </p>
      <p class="in-line"><span role="status">{{ between }}</span> <span class="soft">{{ order }}</span></p>
    </div>
  </div>
</template>

<style scoped>
.folded { height: 100%; display: grid; grid-template-rows: minmax(0, 1fr) auto; background: var(--ground); }
.space { position: relative; overflow: hidden; min-height: 0; touch-action: none; }
.space:focus-visible { outline-offset: -2px; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; display: block; outline: none; }
.handles { position: absolute; inset: 0; pointer-events: none; }
.handles circle { fill: var(--ground); stroke: var(--accent); stroke-width: 2; pointer-events: all; cursor: grab; outline: none; }
.handles circle:focus-visible { fill: var(--accent); }
.below { border-top: 1px solid var(--ink); padding: 6px 12px 8px; display: grid; gap: 6px; }
.below [aria-pressed='true'] { font-weight: 650; text-decoration: none; }
.in-line { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: center; }
.soft { color: var(--soft-ink); }
.says { position: absolute; left: 30%; top: 45%; }
</style>

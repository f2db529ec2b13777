<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'

import { AssemblyScene, CANNOT_DRAW, VIEWS } from '../dryfit/scene'
import ActButton from '../kit/ActButton.vue'
import type { Body } from './bodies'

/** The bodies of a mesh in space: turned, and one or a face of it picked. */
const props = defineProps<{ bodies: Body[]; chosen: number | null; fill: string }>()
const emit = defineEmits<{ choose: [index: number | null]; face: [way: [number, number, number]] }>()
const frame = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(frame)
const trouble = ref('')
const drawn = ref(false)
let scene: AssemblyScene | null = null
let pressed = { x: 0, y: 0 }

const NO_TURN = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0]

function take(): void {
  const meshes = props.bodies.map(({ corners, triangles }, index) => ({ part: String(index), corners, triangles }))
  const copies = props.bodies.map((_, index) => ({ part: String(index), number: 1, group: 0, matrix: NO_TURN }))
  scene?.take({ meshes, copies }, Object.fromEntries(copies.map(({ part }) => [part, props.fill])))
  show()
  scene?.look(VIEWS.Corner)
}

function show(): void {
  scene?.show((part) => ({ shift: [0, 0, 0], chosen: Number(part) === props.chosen, hidden: false }))
}

onMounted(() => {
  try {
    if (canvas.value) scene = new AssemblyScene(canvas.value)
    if (scene) scene.onDrawn = () => { drawn.value = true }
    take()
  } catch {
    trouble.value = CANNOT_DRAW
  }
})
onBeforeUnmount(() => scene?.dispose())
watch([width, height], ([w, h]) => {
  scene?.resize(w, h)
  scene?.look(VIEWS.Corner)
})
watch(() => props.bodies, take)
watch(() => props.chosen, show)

/** A press that is no drag picks. */
function release(event: PointerEvent): void {
  if (Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > 4) return
  const { offsetX: x, offsetY: y } = event
  const found = scene?.pick(x, y)
  emit('choose', found ? Number(found.part) : null)
  const way = found && scene?.faceAt(x, y)
  if (way) emit('face', way)
}
</script>

<template>
  <div ref="frame" class="space">
    <canvas ref="canvas" tabindex="0" role="img" :aria-busy="!drawn" aria-label="The bodies of the mesh in space; drag to turn, press to pick" @pointerdown="(event) => (pressed = { x: event.clientX, y: event.clientY })" @pointerup="release" />
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <p class="views">Look from <ActButton v-for="(way, name) in VIEWS" :key="name" @click="scene?.look(way)">{{ name.toLowerCase() }}</ActButton></p>
  </div>
</template>

<style scoped>
.space { position: relative; height: 100%; min-height: 0; overflow: hidden; }
canvas { width: 100%; height: 100%; display: block; cursor: grab; }
.views { position: absolute; left: 14px; bottom: 8px; margin: 0; display: flex; gap: 12px; color: var(--soft-ink); }
.why { position: absolute; top: 40%; left: 20%; }
</style>

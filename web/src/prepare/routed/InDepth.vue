<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'

import ActButton from '../../kit/ActButton.vue'
import { CANNOT_DRAW } from '../../dryfit/scene'
import type { Player } from '../player'
import { onSheet, type Prepared } from '../prepared'
import { DepthScene } from './depthScene'
import { Relief } from './relief'

/** The sheet in space, cut down pass by pass while the run is played. */
const props = defineProps<{ prepared: Prepared; player: Player; tint: string }>()
const canvas = useTemplateRef('canvas')
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame)
const trouble = ref('')
const scene = shallowRef<DepthScene | null>(null)
const relief = shallowRef<Relief | null>(null)

const VIEWS = { 'from the corner': [-0.12, -0.75, 0.95], 'from above': [0, -0.02, 1], 'from the front': [0, -1, 0.42] } as const

function colour(hex: string): [number, number, number] {
  const number = parseInt(hex.slice(1), 16)
  return [((number >> 16) & 255) / 255, ((number >> 8) & 255) / 255, (number & 255) / 255]
}

/** The run in the frame of the sheet: that may lie turned on the bed. */
function begin(): void {
  const moves = props.player.moves.value
  if (!moves?.z.length || !scene.value) return
  const { lies } = props.prepared
  const at = (xs: number[], ys: number[]): [number[], number[]] => {
    const places = xs.map((x, index) => onSheet(lies, { x, y: ys[index] ?? 0 }))
    return [places.map((place) => place.x), places.map((place) => place.y)]
  }
  const [x, y] = at(moves.x, moves.y)
  const [centre_x, centre_y] = at(moves.centre_x, moves.centre_y)
  const { width: wide, height: high, thickness } = props.prepared
  relief.value = new Relief({ ...moves, x, y, centre_x, centre_y }, 0, 0, wide, high, thickness)
  scene.value.show(relief.value, colour(props.tint))
  follow()
}

function follow(): void {
  const now = props.player.at.value
  const moves = props.player.moves.value
  if (!now || !moves || !relief.value || !scene.value) return
  const began = props.player.now.value > 0
  relief.value.to(began ? now.move : 0, began ? now.share : 0)
  const [from, to] = [now.move ? (moves.z[now.move - 1] ?? 0) : 0, moves.z[now.move] ?? 0]
  const place = onSheet(props.prepared.lies, now)
  scene.value.cutter(place.x, place.y, from + (to - from) * now.share, moves.wide[now.move] ?? 0)
}

onMounted(() => {
  if (!canvas.value) return
  try {
    scene.value = new DepthScene(canvas.value)
  } catch {
    trouble.value = CANNOT_DRAW
    return
  }
  scene.value.resize(width.value, height.value)
  void props.player.load().then(begin)
})
onBeforeUnmount(() => scene.value?.dispose())
watch([width, height], () => scene.value?.resize(width.value, height.value))
watch(() => props.player.moves.value, (moves) => { if (moves) begin(); else void props.player.load() })
watch(() => props.player.now.value, follow)

/** For measuring: how long the last frames took to draw. */
defineExpose({ scene })
</script>

<template>
  <div ref="frame" class="in-depth">
    <canvas ref="canvas" tabindex="0" role="img" aria-label="The sheet in space, as far as it is cut"></canvas>
    <p v-if="trouble" class="why cannot" role="alert">{{ trouble }}</p>
    <p class="views">
      <ActButton v-for="(from, name) in VIEWS" :key="name" @click="scene?.lookFrom(from)">{{ name }}</ActButton>
    </p>
  </div>
</template>

<style scoped>
.in-depth { position: relative; height: 100%; overflow: hidden; background: var(--ground); touch-action: none; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; display: block; }
canvas:focus-visible { outline-offset: -2px; }
.views { position: absolute; right: 8px; bottom: 6px; display: flex; gap: 12px; padding: 1px 8px; background: var(--ground); font-size: 11.5px; }
.cannot { position: absolute; left: 20px; top: 20px; }
</style>

<script setup lang="ts">
import { ref, watch } from 'vue'

import { client, sentence } from '../api/client'
import { VIEWS, type AssemblyScene } from '../dryfit/scene'
import { useScene } from '../dryfit/useScene'

/** A part of an order folded, as the service would bend it; the bend that is chosen stands out. */
const props = defineProps<{ enquiry: number; version: number; part: number; chosen: string }>()
const frame = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
let scene: AssemblyScene | null = null
const { trouble } = useScene(frame, canvas, (begun) => {
  scene = begun
  void load()
})
let looked = -1

async function load(): Promise<void> {
  if (!scene) return
  const params = { path: { number: props.enquiry, part: props.part } }
  const { data, error } = await client.GET('/api/service/files/{number}/folded/{part}', { params })
  trouble.value = data ? '' : sentence(error)
  if (!data) return
  scene.take(data, Object.fromEntries(data.meshes.map((mesh) => [mesh.part, '#cfd3d6'])))
  show()
  if (looked !== props.part) scene.look(VIEWS.Corner)
  looked = props.part
}

function show(): void {
  scene?.show((mesh) => ({ shift: [0, 0, 0], chosen: mesh.startsWith(`${props.chosen} `), hidden: false }))
}

watch(() => [props.part, props.version], load)
watch(() => props.chosen, show)
</script>

<template>
  <div ref="frame" class="space" role="img" aria-label="The part folded"><canvas ref="canvas"></canvas><p v-if="trouble" class="why">{{ trouble }}</p></div>
</template>

<style scoped>
.space { position: relative; height: 100%; min-height: 0; overflow: hidden; touch-action: none; border-left: 1px solid var(--ink); }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; }
</style>

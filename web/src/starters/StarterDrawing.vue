<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'

import type { Size, Unit } from '../api/client'
import { spanLabels } from '../dryfit/labels'
import { AssemblyScene, CANNOT_DRAW, VIEWS, type DryFit } from '../dryfit/scene'
import SpanLabels from '../dryfit/SpanLabels.vue'
import type { Refusal } from '../state/refusal'
import type { Driven } from './inPlace'

/** What a starter would make, in space with its sizes. */
const props = defineProps<{ fit: DryFit; tints: Record<string, string>; unit: Unit; put: (driven: Driven, size: Size) => Promise<Refusal | null> }>()
const frame = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(frame)
const drawn = ref(0)
const trouble = ref('')
let scene: AssemblyScene | null = null

const labels = computed(() => {
  void drawn.value
  return scene ? spanLabels(scene, props.fit, props.unit) : []
})

function take(): void {
  scene?.take(props.fit, props.tints)
  scene?.look(VIEWS.Corner)
}

onMounted(() => {
  if (!canvas.value) return
  try {
    scene = new AssemblyScene(canvas.value)
  } catch {
    trouble.value = CANNOT_DRAW
    return
  }
  scene.onDrawn = () => { drawn.value++ }
  scene.resize(width.value, height.value)
  take()
})
onBeforeUnmount(() => scene?.dispose())
watch([width, height], () => {
  scene?.resize(width.value, height.value)
  scene?.look(VIEWS.Corner)
})
watch(() => props.fit, take)
</script>

<template>
  <div ref="frame" class="space" role="group" aria-label="What it would make">
    <canvas ref="canvas"></canvas>
    <p v-if="trouble" class="says" role="alert">{{ trouble }}</p>
    <SpanLabels :labels="labels" :width="width" :height="height" :put="put" />
  </div>
</template>

<style scoped>
.space { position: relative; overflow: hidden; height: 100%; min-height: 0; touch-action: none; }
.says { position: absolute; left: 20%; top: 45%; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; display: block; }
</style>

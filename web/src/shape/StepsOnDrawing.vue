<script setup lang="ts">
import { computed } from 'vue'

import type { Repeat, Size } from '../api/client'
import type { View } from '../drawing/view'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'
import { useDragging } from './dragging'
import { useShapes } from './shapes'
import { stepsOf } from './spacing'

/** The steps of the chosen shape's repeat, between its first place and the next, to be typed there. */
const props = defineProps<{ view: View }>()
const shapes = useShapes()
const dragging = useDragging()

const shown = computed(() => shapes.aloneShown)
const steps = computed(() => {
  const { repeat, twin } = shapes.alone ?? {}
  if (!repeat || !twin || !shown.value) return []
  return stepsOf(repeat, twin, shown.value.spots).map((step) => {
    const at = props.view.toScreen((step.from.x + step.to.x) / 2, (step.from.y + step.to.y) / 2)
    return { ...step, size: (repeat as unknown as Record<string, Size>)[step.field] ?? { text: '0', unit: 'mm' as const }, at: { left: `${at.x}px`, top: `${at.y}px` } }
  })
})

function save(field: string, size: Size): Promise<Refusal | null> {
  return shapes.put(({ repeat }) => ({ repeat: { ...repeat, [field]: size } as Repeat }))
}
</script>

<template>
  <div v-for="step in steps" :key="step.field" class="step" :class="{ held: dragging.held }" :style="step.at">
    <SizeField :label="`${step.name}: step of ${shown?.called}`" :size="step.size" :value="shapes.value(`repeat/${step.field}`)" :bare="step.angle" :save="(size) => save(step.field, size)" small hide-label />
    <span v-if="step.angle" aria-hidden="true">°</span>
  </div>
</template>

<style scoped>
.step { position: absolute; width: max-content; display: flex; align-items: baseline; transform: translate(-50%, -50%); background: var(--ground); padding: 0 2px; z-index: 2; font-size: 12px; }
.step.held { pointer-events: none; }
</style>

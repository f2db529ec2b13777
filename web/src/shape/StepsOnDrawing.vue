<script setup lang="ts">
import { computed } from 'vue'

import type { Repeat, Size } from '../api/client'
import type { View } from '../drawing/view'
import SizeField from '../kit/SizeField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { useDragging } from './dragging'
import { stepsOf } from './spacing'

/** The steps of the chosen shape's repeat, between its first place and the next, to be typed there. */
const props = defineProps<{ view: View }>()
const picked = useChoice()
const edits = useEdits()
const workshop = useWorkshop()
const dragging = useDragging()

const cut = computed(() => (picked.cutoutIds.length === 1 ? picked.cutout : null))
const shown = computed(() => picked.partShown?.cutouts.find(({ id }) => id === cut.value?.id))
const steps = computed(() => {
  const { repeat, twin } = cut.value ?? {}
  if (!repeat || !twin || !shown.value) return []
  return stepsOf(repeat, twin, shown.value.spots).map((step) => {
    const at = props.view.toScreen((step.from.x + step.to.x) / 2, (step.from.y + step.to.y) / 2)
    return { ...step, size: (repeat as unknown as Record<string, Size>)[step.field] ?? { text: '0', unit: 'mm' as const }, at: { left: `${at.x}px`, top: `${at.y}px` } }
  })
})

function value(field: string): number | undefined {
  return workshop.shown?.values[`parts/${picked.partId}/cutouts/${cut.value?.id}/repeat/${field}`]
}

function save(field: string, size: Size): Promise<Refusal | null> {
  const id = cut.value?.id
  return edits.editPart(picked.partId ?? '', ({ cutouts }) => ({ cutouts: cutouts.map((one) => (one.id === id ? { ...one, repeat: { ...one.repeat, [field]: size } as Repeat } : one)) }))
}
</script>

<template>
  <div v-for="step in steps" :key="step.field" class="step" :class="{ held: dragging.held }" :style="step.at">
    <SizeField :label="`${step.name}: step of ${shown?.called}`" :size="step.size" :value="value(step.field)" :bare="step.angle" :save="(size) => save(step.field, size)" small hide-label />
    <span v-if="step.angle" aria-hidden="true">°</span>
  </div>
</template>

<style scoped>
.step { position: absolute; width: max-content; display: flex; align-items: baseline; transform: translate(-50%, -50%); background: var(--ground); padding: 0 2px; z-index: 2; font-size: 12px; }
.step.held { pointer-events: none; }
</style>

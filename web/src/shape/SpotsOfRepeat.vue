<script setup lang="ts">
import { computed } from 'vue'

import type { View } from '../drawing/view'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'

/** The places of a repeat, each of which can be left out where it stands. */
defineProps<{ view: View }>()
const picked = useChoice()
const edits = useEdits()

const shape = computed(() => (picked.cutoutIds.length === 1 ? picked.partShown?.cutouts.find((c) => c.id === picked.cutoutId) : undefined))

function toggle(event: Event, place: number, out: boolean): void {
  event.stopPropagation()
  if (picked.partId && shape.value) void edits.change({ do: 'leave out', part: picked.partId, id: shape.value.id, place, out: !out })
}
</script>

<template>
  <g v-if="shape">
    <circle
      v-for="(spot, index) in shape.spots"
      :key="index"
      class="spot"
      :class="{ out: spot.out }"
      :cx="view.toScreen(spot.x, 0).x"
      :cy="view.toScreen(0, spot.y).y"
      r="5"
      tabindex="0"
      role="button"
      :aria-label="`Place ${index + 1} of ${shape.called}${spot.out ? ', left out' : ''}`"
      :aria-pressed="!spot.out"
      @pointerdown="toggle($event, index, spot.out)"
      @keydown.enter.prevent="toggle($event, index, spot.out)"
      @keydown.space.prevent="toggle($event, index, spot.out)"
    >
      <title>{{ spot.out ? 'Left out: press to take it in' : 'Press to leave this one out' }}</title>
    </circle>
  </g>
</template>

<style scoped>
.spot { fill: var(--accent); stroke: #fff; stroke-width: 1; cursor: pointer; outline: none; }
.spot.out { fill: var(--ground); stroke: var(--accent); stroke-dasharray: 2 2; }
.spot:focus-visible { stroke: var(--ink); stroke-width: 3; }
</style>

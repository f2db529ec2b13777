<script setup lang="ts">
import type { Label } from './labels'

/** Dimensions over a drawing in space. */
defineProps<{ labels: Label[]; width: number; height: number }>()
</script>

<template>
  <svg v-if="labels.length" class="sizes" :width="width" :height="height" aria-hidden="true">
    <g v-for="(label, index) in labels" :key="index" :class="{ inner: label.inner }">
      <line :x1="label.a.x" :y1="label.a.y" :x2="label.b.x" :y2="label.b.y" />
      <path :d="`M${label.a.x - 3} ${label.a.y + 3}l6 -6M${label.b.x - 3} ${label.b.y + 3}l6 -6`" />
    </g>
  </svg>
  <span v-for="(label, index) in labels" :key="index" class="size" :class="{ inner: label.inner }" :style="{ left: `${label.at.x}px`, top: `${label.at.y}px` }">{{ label.text }}</span>
</template>

<style scoped>
.sizes { position: absolute; inset: 0; pointer-events: none; }
.sizes line, .sizes path { stroke: var(--ink); stroke-width: 0.9; fill: none; }
.sizes .inner line, .sizes .inner path { stroke: var(--accent); }
.size { position: absolute; transform: translate(-50%, -50%); background: var(--ground); padding: 0 4px; font-size: 12px; pointer-events: none; white-space: nowrap; }
.size.inner { color: var(--accent); font-size: 11px; padding: 0 2px; }
</style>

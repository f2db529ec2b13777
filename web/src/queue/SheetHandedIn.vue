<script setup lang="ts">
import type { Schemas } from '../api/client'
import RuledGround from '../drawing/RuledGround.vue'

/** A sheet as the machine would cut it. */
defineProps<{ sheet: Schemas['SheetLooked']; label: string }>()
</script>

<template>
  <RuledGround :box="{ left: 0, bottom: 0, right: sheet.width, top: sheet.height }" :label="label">
    <template #default="{ view }">
      <g :transform="`${view.place.value} translate(0 ${-sheet.height})`">
        <rect class="edge" x="0" y="0" :width="sheet.width" :height="sheet.height" vector-effect="non-scaling-stroke" />
        <path v-for="(line, index) in sheet.lines" :key="index" :d="line.path" class="line" :class="line.operation" vector-effect="non-scaling-stroke" />
      </g>
    </template>
  </RuledGround>
</template>

<style scoped>
.edge { fill: var(--paper); stroke: var(--rule); }
.line { fill: none; stroke: var(--ink); stroke-width: 1.2; }
.score { stroke: #8a5a00; stroke-dasharray: 2.4 1; }
.engrave, .fill { stroke: #8a5a00; }
.pocket { stroke-dasharray: 6 2 1 2; }
.bend-up { stroke: var(--soft-ink); stroke-dasharray: 14 5; }
.bend-down { stroke: var(--soft-ink); stroke-dasharray: 14 4 2 4 2 4; }
.reference { stroke: #9a9a9a; stroke-dasharray: 1 3; }
</style>

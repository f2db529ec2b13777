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
        <path v-for="(line, index) in sheet.lines" :key="index" :d="line.path" class="line" :class="`op-${line.operation}`" vector-effect="non-scaling-stroke" />
      </g>
    </template>
  </RuledGround>
</template>

<style scoped>
.edge { fill: var(--paper); stroke: var(--rule); }
.line { fill: none; }
</style>

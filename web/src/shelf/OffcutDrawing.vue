<script setup lang="ts">
import { corners, type Offcut } from './shelf'

/** An offcut as it lies there. */
defineProps<{ offcut: Offcut; size: number }>()
</script>

<template>
  <svg :width="size" :height="(size * 3) / 4" :viewBox="`-4 -4 ${offcut.width + 8} ${offcut.height + 8}`" role="img" :aria-label="`Offcut of ${offcut.width.toFixed(0)} by ${offcut.height.toFixed(0)} mm`">
    <polygon :points="corners(offcut)" fill="#e6cf9f" stroke="#1c1914" stroke-width="1" vector-effect="non-scaling-stroke" />
  </svg>
</template>

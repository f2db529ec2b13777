<script setup lang="ts">
import { ElProgress } from 'element-plus'

/** How far long work has come, from 0 to 1. */
defineProps<{ label: string; done: number }>()
</script>

<template>
  <ElProgress class="bar" :aria-label="label" :percentage="Math.round(done * 100)" :stroke-width="5" :show-text="false" :duration="0" />
</template>

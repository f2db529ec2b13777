<script setup lang="ts">
import { ElProgress } from 'element-plus'

/** How far long work has come, from 0 to 1; while it waits, how many are carried out before it. */
defineProps<{ label: string; done: number; ahead?: number }>()
</script>

<template>
  <ElProgress class="bar" :aria-label="label" :percentage="Math.round(done * 100)" :stroke-width="5" :show-text="false" :duration="0" />
  <p v-if="ahead" class="ahead" role="status">Waits for {{ ahead }} asked for before it.</p>
</template>

<style scoped>
.ahead {
  margin: 4px 0 0;
  font-size: 12px;
}
</style>

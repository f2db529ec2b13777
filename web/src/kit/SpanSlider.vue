<script setup lang="ts">
import { ElSlider } from 'element-plus'

/** A share from 0 to 1, drawn or moved by the arrow keys. */
const share = defineModel<number>({ required: true })
defineProps<{ label: string }>()
</script>

<template>
  <ElSlider v-model="share" class="span-slider" :aria-label="label" :min="0" :max="1" :step="0.01" :show-tooltip="false" @keydown.stop />
</template>

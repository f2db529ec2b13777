<script setup lang="ts">
import { ElCheckbox } from 'element-plus'

/** Something that is so or is not. */
defineProps<{ value: boolean; label?: string; save: (value: boolean) => void }>()
</script>

<template>
  <ElCheckbox class="tick" :model-value="value" :aria-label="label" @change="(now) => save(now === true)"><slot /></ElCheckbox>
</template>

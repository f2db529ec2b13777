<script setup lang="ts">
import { ElUpload, type UploadFile } from 'element-plus'

import ActButton from './ActButton.vue'

/** A file from the maker's own machine, chosen by a button. */
const props = defineProps<{ label: string; accept: string; take: (file: File) => Promise<void> }>()

function taken(file: UploadFile): void {
  if (file.raw) void props.take(file.raw)
}
</script>

<template>
  <ElUpload class="pick-file" :auto-upload="false" :show-file-list="false" :accept="accept" @change="taken"><ActButton :aria-label="label"><slot /></ActButton></ElUpload>
</template>

<style scoped>
.pick-file { display: inline-block; margin-left: 12px; }
</style>

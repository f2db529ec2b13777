<script setup lang="ts">
import { ElUpload, type UploadFile } from 'element-plus'

/** A file from the maker's own machine: chosen, or dropped here. */
const props = defineProps<{ label: string; accept: string; take: (file: File) => Promise<void> }>()

function taken(file: UploadFile): void {
  if (file.raw) void props.take(file.raw)
}
</script>

<template>
  <ElUpload class="file-field" drag :auto-upload="false" :show-file-list="false" :accept="accept" :aria-label="label" @change="taken">
    {{ label }}, <em>or drop it here</em>
  </ElUpload>
</template>

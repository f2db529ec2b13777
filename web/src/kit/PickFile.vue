<script setup lang="ts">
import { ElUpload, type UploadFile } from 'element-plus'

/** A file from the maker's own machine, chosen by a word in the text; `of` says to whom cannot see it what it is for. */
const props = defineProps<{ of: string; accept: string; take: (file: File) => Promise<void> }>()

function taken(file: UploadFile): void {
  if (file.raw) void props.take(file.raw)
}
</script>

<template>
  <ElUpload class="pick-file" :auto-upload="false" :show-file-list="false" :accept="accept" @change="taken">
    <span class="word"><slot /></span><span class="unseen"> of {{ of }}</span>
  </ElUpload>
</template>

<style scoped>
.pick-file { display: inline-block; margin-left: 12px; }
.word { color: var(--accent); text-decoration: underline; text-underline-offset: 3px; }
.unseen { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap; }
</style>

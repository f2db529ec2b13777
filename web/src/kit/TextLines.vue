<script setup lang="ts">
import { ElInput } from 'element-plus'

/** Lines of text to type or paste into. A key typed here is never heard by the page. */
const text = defineModel<string>({ required: true })
defineProps<{ label: string; rows?: number; placeholder?: string }>()
</script>

<template>
  <ElInput v-model="text" type="textarea" class="text-lines" :rows="rows ?? 4" :aria-label="label" :placeholder="placeholder" resize="vertical" autocomplete="off" spellcheck="false" @keydown.stop />
</template>

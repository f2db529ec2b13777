<script setup lang="ts">
import { ElInput, type InputInstance } from 'element-plus'
import { ref } from 'vue'

/** A line of text to type into. A key typed here is never heard by the page. */
const text = defineModel<string>({ required: true })
defineProps<{ id?: string; label?: string; most?: number; placeholder?: string; wide?: number }>()
const input = ref<InputInstance | null>(null)
defineExpose({ focus: () => input.value?.focus(), select: () => input.value?.select(), blur: () => input.value?.blur() })
</script>

<template>
  <ElInput
    :id="id"
    ref="input"
    v-model="text"
    class="text-input"
    :aria-label="label"
    :maxlength="most"
    :placeholder="placeholder"
    :input-style="wide ? { width: `${wide}ch` } : undefined"
    autocomplete="off"
    spellcheck="false"
    @keydown.stop
  >
    <template v-if="$slots.default" #suffix><slot /></template>
  </ElInput>
</template>

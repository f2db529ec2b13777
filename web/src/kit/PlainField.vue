<script setup lang="ts">
import { ref, useId, useTemplateRef, watch } from 'vue'

import TextInput from './TextInput.vue'

/**
 * A name or a whole number, or nothing where a `blank` says what that means. What is being typed is never overwritten
 * by an answer that comes meanwhile.
 */
const props = defineProps<{ label: string; /** What it is where the label alone does not say. */ called?: string; value: string | number; most?: number; blank?: string; save: (value: string) => void }>()

const id = useId()
const input = useTemplateRef('input')
const text = ref('')
const editing = ref(false)

watch(
  () => props.value,
  (value) => {
    if (!editing.value) text.value = String(value)
  },
  { immediate: true },
)

function commit(): void {
  editing.value = false
  let value = text.value.trim()
  if (props.most !== undefined && (value || props.blank === undefined)) value = String(Math.min(props.most, Math.max(1, Math.round(Number(value)) || 1)))
  text.value = value || (props.blank === undefined ? String(props.value) : '')
  if (text.value !== String(props.value)) props.save(text.value)
}

/** Also where the caret has stayed since the last answer: what is typed then is as much the maker's own. */
function type(typed: string): void {
  editing.value = true
  text.value = typed
}

function begin(): void {
  editing.value = true
  input.value?.select()
}

function cancel(): void {
  text.value = String(props.value)
  input.value?.blur()
}
</script>

<template>
  <div class="row-field">
    <label :for="id">{{ label }}</label>
    <TextInput :id="id" ref="input" :label="called" :model-value="text" :most="80" :placeholder="blank" :inputmode="most === undefined ? undefined : 'numeric'" @update:model-value="type" @focus="begin" @blur="commit" @keydown.enter="commit" @keydown.esc="cancel" />
  </div>
</template>

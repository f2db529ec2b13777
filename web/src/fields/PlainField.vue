<script setup lang="ts">
import { ref, useId, watch } from 'vue'

/** A name or a whole number. What is being typed is never overwritten by an answer that comes meanwhile. */
const props = defineProps<{ label: string; value: string | number; most?: number; save: (value: string) => void }>()

const id = useId()
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
  let value = String(text.value).trim()
  if (props.most !== undefined) value = String(Math.min(props.most, Math.max(1, Math.round(Number(value)) || 1)))
  text.value = value || String(props.value)
  if (text.value !== String(props.value)) props.save(text.value)
}

function cancel(event: KeyboardEvent): void {
  text.value = String(props.value)
  ;(event.target as HTMLInputElement).blur()
}
</script>

<template>
  <div class="row-field">
    <label :for="id">{{ label }}</label>
    <input
      :id="id"
      v-model="text"
      class="text-input"
      :type="most === undefined ? 'text' : 'number'"
      :min="most === undefined ? undefined : 1"
      :max="most"
      maxlength="80"
      autocomplete="off"
      @focus="editing = true"
      @blur="commit"
      @keydown.enter="commit"
      @keydown.esc="cancel"
      @keydown.stop
    />
  </div>
</template>

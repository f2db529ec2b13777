<script setup lang="ts" generic="T extends string">
import { useId } from 'vue'

/** One of a few choices; `names` says what to call those that are not called what they are. */
const props = defineProps<{ label: string; value: T; options: readonly T[]; names?: Partial<Record<T, string>>; save: (value: T) => void }>()
const id = useId()

function choose(event: Event): void {
  const found = props.options[(event.target as HTMLSelectElement).selectedIndex]
  if (found !== undefined) props.save(found)
}
</script>

<template>
  <div class="row-field">
    <label :for="id">{{ label }}</label>
    <select :id="id" class="text-input" :value="value" @change="choose">
      <option v-for="option in options" :key="option" :value="option">{{ names?.[option] ?? option }}</option>
    </select>
  </div>
</template>

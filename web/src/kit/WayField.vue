<script setup lang="ts" generic="T extends string">
import { ElRadio, ElRadioGroup } from 'element-plus'

/** One of a few ways, all of them seen; `names` says what to call those that are not called what they are. */
defineProps<{ label: string; value: T; options: readonly T[]; names?: Partial<Record<T, string>>; save: (value: T) => void }>()
</script>

<template>
  <ElRadioGroup class="ways" :model-value="value" :aria-label="label" @change="(now) => save(now as T)">
    <ElRadio v-for="option in options" :key="option" :value="option">{{ names?.[option] ?? option }}</ElRadio>
  </ElRadioGroup>
</template>

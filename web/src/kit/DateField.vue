<script setup lang="ts">
import 'element-plus/es/components/date-picker/style/css'

import { ElDatePicker } from 'element-plus'
import { useId } from 'vue'

/** A day as 2026-11-25: up to today, or with `ahead` from today on. */
const day = defineModel<string>({ required: true })
const props = defineProps<{ label: string; ahead?: boolean }>()

function barred(date: Date): boolean {
  const now = Date.now()
  return props.ahead ? date.getTime() < now - 86_400_000 : date.getTime() > now
}
const id = useId()
</script>

<template>
  <div class="row-field">
    <label :for="id">{{ label }}</label>
    <ElDatePicker :id="id" v-model="day" class="date-box" type="date" value-format="YYYY-MM-DD" :clearable="false" :disabled-date="barred" @keydown.stop />
  </div>
</template>

<script setup lang="ts">
import 'element-plus/es/components/date-picker/style/css'

import { ElDatePicker } from 'element-plus'
import { useId } from 'vue'

/** A day, up to today, as 2026-11-25. */
const day = defineModel<string>({ required: true })
defineProps<{ label: string }>()
const id = useId()
</script>

<template>
  <div class="row-field">
    <label :for="id">{{ label }}</label>
    <ElDatePicker :id="id" v-model="day" class="date-box" type="date" value-format="YYYY-MM-DD" :clearable="false" :disabled-date="(date: Date) => date > new Date()" @keydown.stop />
  </div>
</template>

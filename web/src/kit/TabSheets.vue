<script setup lang="ts" generic="T extends string">
import { ElTabPane, ElTabs } from 'element-plus'

/** Sheets of which one is seen; each tab has a slot of its name. */
const shown = defineModel<T>({ required: true })
defineProps<{ tabs: { name: T; title: string }[] }>()
</script>

<template>
  <ElTabs v-model="shown" class="tab-sheets">
    <ElTabPane v-for="tab in tabs" :key="tab.name" :name="tab.name" :label="tab.title" lazy><slot :name="tab.name" /></ElTabPane>
  </ElTabs>
</template>

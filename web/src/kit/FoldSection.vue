<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, ref } from 'vue'

/** A section that folds away; with a `name` it stays as it was left. What it `says` stands beside its title. */
const props = defineProps<{ title: string; says?: string; name?: string; folded?: boolean }>()
const left = useLocalStorage<Record<string, boolean>>('folded', {})
const now = ref(props.folded ?? false)
const isFolded = computed(() => (props.name ? left.value[props.name] : undefined) ?? now.value)

const open = computed({
  get: () => (isFolded.value ? [] : ['it']),
  set: (names) => {
    now.value = names.length === 0
    if (props.name) left.value = { ...left.value, [props.name]: now.value }
  },
})
</script>

<template>
  <ElCollapse v-model="open" class="fold"><ElCollapseItem name="it">
    <template #title><span class="fold-title">{{ title }}</span>{{ " " }}<small v-if="says" class="says">{{ says }}</small></template>
    <slot />
  </ElCollapseItem></ElCollapse>
</template>

<style scoped>
.says { margin-left: 8px; color: var(--soft-ink); font-weight: 400; }
</style>

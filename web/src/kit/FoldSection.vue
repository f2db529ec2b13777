<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, ref } from 'vue'

/** A section that folds away; with a `name` it stays as it was left, whatever is opened next. */
const props = defineProps<{ title: string; name?: string; folded?: boolean }>()
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
  <ElCollapse v-model="open" class="fold"><ElCollapseItem name="it" :title="title"><slot /></ElCollapseItem></ElCollapse>
</template>

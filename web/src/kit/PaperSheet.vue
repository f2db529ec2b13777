<script setup lang="ts">
import { ElDialog } from 'element-plus'

/** A sheet that lies over the page; Escape takes it away. */
const open = defineModel<boolean>({ required: true })
defineProps<{ title: string; width?: string; whole?: boolean }>()
</script>

<template>
  <ElDialog v-model="open" :title="title" :width="width" :fullscreen="whole" class="paper" append-to-body destroy-on-close>
    <slot />
  </ElDialog>
</template>

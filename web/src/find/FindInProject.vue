<script setup lang="ts">
import { useFindables } from './findables'
import FindSheet from './FindSheet.vue'

/** All of the open project, and the handbook. */
const open = defineModel<boolean>({ required: true })
const { findables, ofTheHandbook } = useFindables()
</script>

<template>
  <FindSheet v-model="open" :findables="findables" :more="ofTheHandbook" />
</template>

<script setup lang="ts">
import { useId } from 'vue'

import type { Side } from '../api/client'
import { chosen, SIDES } from './edit'

/** Which side of a part a joint is on. */
defineProps<{ label: string; side: Side; save: (side: Side) => void }>()
const id = useId()
</script>

<template>
  <div class="row-field">
    <label :for="id" class="cut-off">{{ label }}</label>
    <select :id="id" class="text-input" :value="side" @change="save(chosen($event) as Side)"><option v-for="one in SIDES" :key="one">{{ one }}</option></select>
  </div>
</template>

<style scoped>
.cut-off { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>

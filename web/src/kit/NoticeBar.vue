<script setup lang="ts">
import { ElAlert } from 'element-plus'

/** Something that went wrong, or that is worth knowing, said over the page until it is understood. */
defineProps<{ text: string; wrong?: boolean }>()
defineEmits<{ understood: [] }>()
</script>

<template>
  <ElAlert class="notice" :type="wrong ? 'error' : 'info'" :title="text" :show-icon="false" close-text="Understood" @close="$emit('understood')" />
</template>

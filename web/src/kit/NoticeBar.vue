<script setup lang="ts">
import { ElAlert } from 'element-plus'

/** Something that went wrong, said over the page until it is understood. */
defineProps<{ text: string }>()
defineEmits<{ understood: [] }>()
</script>

<template>
  <ElAlert class="notice" type="error" :title="text" :show-icon="false" close-text="Understood" @close="$emit('understood')" />
</template>

<script setup lang="ts">
import { ElLink } from 'element-plus'

/** A link to a file to keep. */
defineProps<{ href: string }>()
</script>

<template>
  <ElLink class="go" underline="never" :href="href" download><slot /></ElLink>
</template>

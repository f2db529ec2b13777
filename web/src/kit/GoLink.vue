<script setup lang="ts">
import { ElLink } from 'element-plus'
import { RouterLink, type RouteLocationRaw } from 'vue-router'

/** A link to another place in the application. */
defineProps<{ to: RouteLocationRaw }>()
defineOptions({ inheritAttrs: false })
</script>

<template>
  <RouterLink v-slot="{ href, navigate }" :to="to" custom>
    <ElLink class="go" underline="never" :href="href" v-bind="$attrs" @click="navigate"><slot /></ElLink>
  </RouterLink>
</template>

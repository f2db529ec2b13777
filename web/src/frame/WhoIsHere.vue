<script setup lang="ts">
import { computed, onMounted } from 'vue'

import ActButton from '../kit/ActButton.vue'
import { here, leave, lookWhoIsHere } from './here'

/** Who came in at this screen, and the way out for the next one. */
onMounted(() => {
  if (!here.value) void lookWhoIsHere()
})
/** Who is at this machine itself is let in by nobody, and has nothing to leave. */
const cameIn = computed(() => Boolean(here.value?.role) && !['127.0.0.1', 'localhost', '[::1]'].includes(location.hostname))
</script>

<template>
  <span v-if="cameIn" class="who"><span class="cut-off" :title="here?.name">{{ here?.name || here?.role }}</span> <ActButton @click="leave">Leave</ActButton></span>
</template>

<style scoped>
.who { display: flex; gap: 8px; max-width: 180px; padding-left: 12px; border-left: 1px solid var(--rule); white-space: nowrap; }
</style>

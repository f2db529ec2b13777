<script setup lang="ts">
import { away } from './api/reach'
</script>

<template>
  <RouterView />
  <p v-if="away" class="away" role="alert">The server does not answer. What is stored is safe; this page goes on by itself when it is back.</p>
</template>

<style scoped>
.away {
  position: fixed; z-index: 30; bottom: 0; left: 0; right: 0; margin: 0; padding: 8px 16px; text-align: center;
  background: var(--wrong); color: var(--paper); font-size: 14px;
}
</style>

<script setup lang="ts">
/** The drawing in the middle, what is set there on the right, and the margin notes below that. */
defineProps<{ title: string }>()
</script>

<template>
  <div class="station">
    <section class="middle"><slot name="drawing" /></section>
    <section class="side">
      <div class="settings" :aria-label="title" role="region"><slot /></div>
      <slot name="notes" />
    </section>
  </div>
</template>

<style scoped>
.station { height: 100%; display: grid; grid-template-columns: minmax(0, 1fr) 306px; }
.middle { min-width: 0; min-height: 0; overflow: hidden; }
.side { border-left: 1px solid var(--ink); display: grid; grid-template-rows: minmax(0, auto) minmax(150px, 1fr); min-height: 0; background: var(--ground); }
.settings { overflow-y: auto; padding: 10px 12px 14px; min-height: 0; }
</style>

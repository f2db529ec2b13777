<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'

import { useWorkshop } from '../stores/workshop'

/**
 * The drawing in the middle, what is set there on the right, and the margin notes below that. Where parts are drawn,
 * the dry fit may stand in place of the drawing.
 */
const props = defineProps<{ title: string; fits?: boolean }>()
const workshop = useWorkshop()
const DryFit = defineAsyncComponent(() => import('../dryfit/DryFit.vue'))
const together = computed(() => props.fits && workshop.together && (workshop.document?.parts.length ?? 0) > 0)
</script>

<template>
  <div class="station">
    <section class="middle">
      <DryFit v-if="together" />
      <slot v-else name="drawing" />
      <p v-if="fits && workshop.document?.parts.length" class="which" role="group" aria-label="Shown">
        <button type="button" :aria-pressed="!together" title="Key: d" @click="workshop.together = false">Drawing</button>
        <button type="button" :aria-pressed="together" title="Key: d" @click="workshop.together = true">Dry fit</button>
      </p>
    </section>
    <section class="side">
      <div class="settings" :aria-label="title" role="region"><slot /></div>
      <slot name="notes" />
    </section>
  </div>
</template>

<style scoped>
.station { height: 100%; display: grid; grid-template-columns: minmax(0, 1fr) 306px; }
.which { position: absolute; top: 24px; right: 10px; display: flex; background: var(--paper); border: 1px solid var(--ink); z-index: 3; }
.which button { border: 0; background: none; padding: 4px 10px; cursor: pointer; }
.which [aria-pressed='true'] { background: var(--ink); color: var(--paper); }
.middle { position: relative; min-width: 0; min-height: 0; overflow: hidden; }
.side { border-left: 1px solid var(--ink); display: grid; grid-template-rows: minmax(0, auto) minmax(150px, 1fr); min-height: 0; background: var(--ground); }
.settings { overflow-y: auto; padding: 10px 12px 14px; min-height: 0; }
</style>

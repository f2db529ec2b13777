<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'

import { useChoice, type Seen } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import { handbookIsOpen } from './handbook/open'
import ActButton from '../kit/ActButton.vue'

/**
 * The drawing in the middle, what is set there on the right, and the margin notes below that. Where parts are drawn,
 * the dry fit may stand in place of the drawing or beside it.
 */
const HandbookPage = defineAsyncComponent(() => import('./handbook/HandbookPage.vue'))
const props = defineProps<{ title: string; fits?: boolean }>()
const workshop = useWorkshop()
const picked = useChoice()
const DryFit = defineAsyncComponent(() => import('../dryfit/DryFit.vue'))
const seen = computed<Seen>(() => (props.fits && workshop.document?.parts.length ? picked.seen : 'drawing'))

const CHOICES: { seen: Seen; name: string; key: string }[] = [
  { seen: 'drawing', name: 'Drawing', key: 'd' },
  { seen: 'both', name: 'Both', key: 'b' },
  { seen: 'dry fit', name: 'Dry fit', key: 'd' },
]
</script>

<template>
  <div class="station">
    <section class="middle" :class="{ both: seen === 'both' }">
      <div v-if="seen !== 'dry fit'" class="half"><slot name="drawing" /></div>
      <div v-if="seen !== 'drawing'" class="half"><DryFit /></div>
      <p v-if="fits && workshop.document?.parts.length" class="which" role="group" aria-label="Shown">
        <ActButton look="bare" v-for="choice in CHOICES" :key="choice.seen" :pressed="seen === choice.seen" :title="`Key: ${choice.key}`" @click="picked.pick({ seen: choice.seen })">{{ choice.name }}</ActButton>
      </p>
      <p v-if="$slots.which && seen !== 'dry fit'" class="which first" role="group" aria-label="The part is shown"><slot name="which" /></p>
    </section>
    <section class="side" :class="{ told: handbookIsOpen }">
      <HandbookPage v-if="handbookIsOpen" />
      <div class="settings" :aria-label="title" role="region"><slot /></div>
      <slot name="notes" />
    </section>
  </div>
</template>

<style scoped>
.station { height: 100%; display: grid; grid-template-columns: minmax(0, 1fr) 306px; }
.which { position: absolute; top: 24px; right: 10px; display: flex; background: var(--paper); border: 1px solid var(--ink); z-index: 3; }
.which.first { right: auto; left: 34px; }
.which :deep(.act.el-button) { border: 0; background: none; padding: 4px 10px; cursor: pointer; }
.which :deep(.act.el-button.on) { background: var(--ink); color: var(--paper); }
.middle { position: relative; min-width: 0; min-height: 0; overflow: hidden; display: grid; grid-template: minmax(0, 1fr) / minmax(0, 1fr); }
.middle.both { grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); }
.half { position: relative; min-width: 0; min-height: 0; overflow: hidden; }
.half + .half { border-left: 1px solid var(--ink); }
.side { border-left: 1px solid var(--ink); display: grid; grid-template-rows: minmax(0, 1fr) fit-content(40%); min-height: 0; background: var(--ground); }
.side.told { grid-template-rows: minmax(0, 1.1fr) minmax(0, 1fr) fit-content(30%); }
.told .settings { border-top: 1px solid var(--ink); }
.settings { overflow-y: auto; padding: 10px 12px 14px; min-height: 0; }
@media (max-width: 900px) {
  .station { height: auto; grid-template-columns: minmax(0, 1fr); }
  .middle { height: max(380px, 74vh); }
  .side, .side.told { display: block; border-left: 0; border-top: 1px solid var(--ink); }
}
</style>

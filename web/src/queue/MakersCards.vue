<script setup lang="ts">
import type { Schemas } from '../api/client'
import { here } from '../frame/here'
import ActButton from '../kit/ActButton.vue'

/** A card for each maker, to be cut out: the words are seen here and nowhere again. */
defineProps<{ cards: Schemas['CardShown'][] }>()
const print = (): void => window.print()
</script>

<template>
  <div class="cards-to-print">
  <p class="told">{{ cards.length === 1 ? 'This word is' : 'These words are' }} seen only now: print {{ cards.length === 1 ? 'the card' : 'the cards' }}, or write {{ cards.length === 1 ? 'it' : 'them' }} down. <ActButton look="main" @click="print">Print</ActButton></p>
  <ul class="cards" aria-label="Cards">
    <li v-for="card in cards" :key="card.number">
      <span class="small">Lean Notch<template v-if="here?.elsewhere">, at {{ here.elsewhere }}</template></span>
      <strong>{{ card.name }}</strong>
      <span class="word">{{ card.word }}</span>
    </li>
  </ul>
  </div>
</template>

<style scoped>
.told { display: flex; gap: 14px; align-items: center; margin: 0 0 12px; }
.cards { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 0; border: 1px dashed var(--soft-ink); border-width: 1px 0 0 1px; }
li { display: grid; gap: 4px; padding: 14px 16px; border: 1px dashed var(--soft-ink); border-width: 0 1px 1px 0; break-inside: avoid; }
strong { font-size: 16px; overflow-wrap: anywhere; }
.small { color: var(--soft-ink); font-size: 11.5px; }
.word { font-size: 13px; overflow-wrap: anywhere; }
</style>

<style>
@media print {
  body:has(.cards-to-print) :is(#app, .el-dialog__header), .cards-to-print .told { display: none; }
  body:has(.cards-to-print) :is(.el-overlay, .el-overlay-dialog, .el-dialog) { position: static; overflow: visible; }
}
</style>

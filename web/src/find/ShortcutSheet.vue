<script setup lang="ts">
import PaperSheet from '../kit/PaperSheet.vue'
import TickField from '../kit/TickField.vue'
import { PUT } from '../shape/holes'
import { letterKeys } from '../frame/keys'
import { STATIONS } from '../frame/stations'

const open = defineModel<boolean>({ required: true })

const KEYS = [
  [`1 to ${STATIONS.length}`, 'go to a station'],
  [', and .', 'the part before, the part after'],
  ['Tab', 'the next number or choice'],
  ['Enter, Esc', 'take a typed number, give it up'],
  ['arrows', 'nudge what is chosen by 1 mm (1/16 in); with Shift ten times, with Alt a tenth'],
  ['Shift and a click', 'choose one more; Shift and a drag over the ground chooses all in the frame'],
  ['Ctrl and a drag', 'leave the chosen shapes where they are, and drag copies of them'],
  ['Ctrl+A, C, X, V', 'choose all shapes of the part, copy, cut, paste'],
  ['g, u', 'keep what is chosen as a group, take it apart; a double click chooses one of it'],
  ['Alt', 'held while something is dragged: it is drawn to nothing, and not rounded'],
  ['Up, Down', 'in a number: on by its last place; with Shift by ten of them'],
  [PUT.map(([, { key }]) => key).join(' '), 'take a shape up, to be put where it is pressed; Enter puts it in the middle of the part'],
  ['h', 'draw a shape by hand'],
  ['r', 'at Lay out: turn the chosen part on its sheet by a quarter'],
  ['Delete', 'take away what is chosen'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
  ['+  -  0', 'larger, smaller, whole drawing'],
  ['d, b', 'drawing or dry fit, or both; in the dry fit the arrows turn it'],
  ['/', 'find anything by its words: a part, a joint, a setting, something to do'],
  ['F1', 'the handbook’s page of this station, beside the work'],
  ['?', 'this sheet'],
]
</script>

<template>
  <PaperSheet v-model="open" title="Keys" width="480">
    <dl class="keys">
      <template v-for="[key, what] in KEYS" :key="key"><dt>{{ key }}</dt><dd>{{ what }}</dd></template>
    </dl>
    <TickField :value="letterKeys" :save="(now) => { letterKeys = now }">Single letters, digits and signs are keys; without them only Ctrl, Enter, Esc, Tab, Delete and arrows are</TickField>
  </PaperSheet>
</template>

<style scoped>
.keys { display: grid; grid-template-columns: auto 1fr; gap: 3px 16px; margin: 0 0 12px; }
dt { font-weight: 620; white-space: nowrap; }
dd { margin: 0; }
</style>

<script setup lang="ts">
import { ElDialog } from 'element-plus'

const open = defineModel<boolean>({ required: true })

const KEYS = [
  ['1 to 6', 'go to a station'],
  [', and .', 'the part before, the part after'],
  ['Tab', 'the next number or choice'],
  ['Enter, Esc', 'take a typed number, give it up'],
  ['arrows', 'nudge what is chosen by 1 mm (1/16 in); with Shift ten times, with Alt a tenth'],
  ['r', 'turn the chosen part on its sheet by a quarter'],
  ['Delete', 'take away what is chosen'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
  ['+  -  0', 'larger, smaller, whole drawing'],
  ['d, b', 'drawing or dry fit, or both; in the dry fit the arrows turn it'],
  ['?', 'this sheet'],
]
</script>

<template>
  <ElDialog v-model="open" title="Keys" width="460">
    <table class="figures">
      <tbody>
        <tr v-for="[key, what] in KEYS" :key="key">
          <td><strong>{{ key }}</strong></td>
          <td>{{ what }}</td>
        </tr>
      </tbody>
    </table>
  </ElDialog>
</template>

<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { plain } from '../kit/units'
import { refusal, type Refusal } from '../state/refusal'
import type { Look } from './look'

/** Slots and tabs that were drawn for one thickness: from then on they follow the sheet in hand. */
const props = defineProps<{ look: Look }>()
const following = computed(() => props.look.shown.value?.following ?? null)
const drawnFor = computed(() => props.look.choices.value.drawn_for ?? null)

async function save(size: Size): Promise<Refusal | null> {
  const typed = Number(size.text.replace(',', '.'))
  if (!(typed > 0 && typed <= 50)) return refusal(`“${size.text}” is no thickness in mm, such as 3 or 5.6.`)
  return props.look.choose({ drawn_for: typed })
}

const found = computed(() => {
  const { slots = 0, tabs = 0 } = following.value ?? {}
  const said = [slots && `${slots} ${slots === 1 ? 'slot or notch' : 'slots and notches'}`, tabs && `${tabs} ${tabs === 1 ? 'tab' : 'tabs'}`].filter(Boolean)
  return said.length ? `${said.join(' and ')} will follow the thickness of the stock; each keeps its middle line.` : 'Nothing in it is that wide or long.'
})
</script>

<template>
  <div v-if="following" class="stack">
    <TickField :value="drawnFor !== null" :save="(on) => look.told({ drawn_for: on ? (following?.likely ?? 3) : null })">
      {{ following.likely ? `It seems drawn for a sheet of ${plain(following.likely, 'mm')} mm` : 'Its slots were drawn for one thickness' }}
    </TickField>
    <template v-if="drawnFor !== null">
      <SizeField label="Drawn for, in mm" :size="{ text: plain(drawnFor, 'mm'), unit: 'mm' }" bare :save="save" />
      <p class="explain" role="status">{{ found }}</p>
    </template>
  </div>
</template>

<style scoped>
.explain { margin: 2px 0; color: var(--soft-ink); font-size: 12px; }
</style>

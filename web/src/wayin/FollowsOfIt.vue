<script setup lang="ts">
import { computed } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { plain } from '../kit/units'
import { refusal, type Refusal } from '../state/refusal'
import type { Look } from './look'
import OneByOne from './OneByOne.vue'

/** Slots and tabs that were drawn for one thickness: from then on they follow the sheet in hand. */
const props = defineProps<{ look: Look }>()
const following = computed(() => props.look.shown.value?.following ?? null)
const drawnFor = computed(() => props.look.choices.value.drawn_for ?? null)
const places = computed(() => (following.value?.places ?? []).map((place) => ({ ...place, says: place.kind === 'slot' ? 'a slot or notch' : 'a tab' })))

async function save(size: Size): Promise<Refusal | null> {
  const typed = Number(size.text.replace(',', '.'))
  if (!(typed > 0 && typed <= 50)) return refusal(`“${size.text}” is no thickness in mm, such as 3 or 5.6.`)
  return props.look.choose({ drawn_for: typed, stiff: [] })
}

const found = computed(() => {
  const taken = places.value.filter((place) => place.taken)
  const slots = taken.filter((place) => place.kind === 'slot').length
  const tabs = taken.length - slots
  const said = [slots && `${slots} ${slots === 1 ? 'slot or notch' : 'slots and notches'}`, tabs && `${tabs} ${tabs === 1 ? 'tab' : 'tabs'}`].filter(Boolean)
  return said.length ? `${said.join(' and ')} will follow the thickness of the stock` : 'Nothing follows it'
})
</script>

<template>
  <div v-if="following" class="stack">
    <TickField :value="drawnFor !== null" :save="(on) => look.told({ drawn_for: on ? (following?.likely ?? 3) : null, stiff: [] })">
      {{ following.likely ? `It seems drawn for a sheet of ${plain(following.likely, 'mm')} mm` : 'Its slots were drawn for one thickness' }}
    </TickField>
    <template v-if="drawnFor !== null">
      <SizeField label="Drawn for, in mm" :size="{ text: plain(drawnFor, 'mm'), unit: 'mm' }" bare :save="save" />
      <p v-if="!places.length" class="explain" role="status">Nothing in it is that wide or long.</p>
      <template v-else>
        <OneByOne :says="found" :places="places" @turn="(place) => look.turn('stiff', place)" @all="(taken) => look.told({ stiff: taken ? [] : places.map(({ x, y }) => ({ x, y })) })" />
        <p class="explain">Each slot keeps its middle line; at Shape it can keep one of its flanks instead.</p>
      </template>
    </template>
  </div>
</template>

<style scoped>
.explain { margin: 2px 0; color: var(--soft-ink); font-size: 12px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import { plain } from '../kit/units'
import { useWorkshop } from '../state/workshop'
import type { WayIn } from './look'
import type { Into } from './take'

/** What of a drawing is taken: as parts on a stock, as what became of those that are there, or on a part. */
const props = defineProps<{ shown: WayIn; chosen: number[]; gone: number; stock: string | null; byThickness: Record<string, string>; into: Into; onto: string | null; going: boolean }>()
const emit = defineEmits<{ stock: [id: string]; thickness: [key: string, id: string]; into: [way: Into]; onto: [part: string]; take: [] }>()
const workshop = useWorkshop()
const stocks = computed(() => workshop.document?.stocks ?? [])
const parts = computed(() => workshop.document?.parts ?? [])
const named = (things: readonly { id: string; name: string }[]): Record<string, string> => Object.fromEntries(things.map((thing) => [thing.id, thing.name]))

const WAYS: Into[] = ['parts', 'outline', 'cut out', 'pocket', 'score', 'engrave', 'reference']
const WAY_NAMES: Record<Into, string> = {
  parts: 'parts', again: 'what changed', outline: 'the outline of a part', 'cut out': 'cut-outs of a part', pocket: 'pockets in a part',
  score: 'scored lines on a part', engrave: 'engraved lines on a part', reference: 'a reference under a part',
}
const ways = computed<Into[]>(() => [...(props.shown.again ? ['again' as const] : []), ...(parts.value.length ? WAYS : (['parts'] as const))])
const onPart = computed(() => props.into !== 'parts' && props.into !== 'again')

/** Parts of a known thickness are cut from the stock that is nearest to it, from another one, or from a new one. */
const thicknesses = computed(() => props.shown.thicknesses)
const allKnown = computed(() => thicknesses.value.reduce((sum, one) => sum + one.parts, 0) === props.shown.parts.reduce((sum, part) => sum + part.count, 0))
const sheets = (thick: string): Record<string, string> => ({ ...named(stocks.value), '': `a new ${thick} mm sheet` })
const differing = computed(() => thicknesses.value.filter(({ key, stock, in_hand: inHand, thick }) => stock === props.byThickness[key] && inHand !== null && Math.abs(inHand - thick) > 0.005))

const copies = computed(() => props.shown.parts.reduce((sum, part, index) => (!props.chosen.length || props.chosen.includes(index) ? sum + part.count : sum), 0))
const one = computed(() => copies.value === 1)
const says = computed(() => {
  if (props.into === 'again') return props.chosen.length + props.gone ? 'Take what is ticked' : 'Nothing is ticked'
  if (onPart.value) return `Put ${one.value ? 'it' : props.chosen.length ? `the ${copies.value} chosen` : `all ${copies.value}`} on ${parts.value.find((part) => part.id === props.onto)?.name ?? 'a part'}`
  if (one.value) return props.chosen.length ? 'Take the chosen part' : 'Take the part'
  return props.chosen.length ? `Take the ${copies.value} chosen parts` : `Take all ${copies.value} parts`
})
/** Why a project cannot take so many. */
const tooMany = computed(() => {
  if (onPart.value) return ''
  return props.chosen.length ? (props.chosen.map((index) => props.shown.parts[index]?.too_many).find(Boolean) ?? '') : props.shown.too_many
})
const ready = computed(() => {
  if (tooMany.value) return false
  if (props.into === 'again') return props.chosen.length + props.gone > 0
  return copies.value > 0 && (onPart.value ? props.onto !== null : allKnown.value || props.stock !== null)
})
</script>

<template>
  <div class="take">
    <ChoiceField v-if="ways.length > 1" label="Taken as" :value="into" :options="ways" :names="WAY_NAMES" :save="(way) => emit('into', way)" />
    <ChoiceField v-if="onPart" label="On the part" :value="onto" :options="parts.map((p) => p.id)" :names="named(parts)" empty="choose a part" :save="(id) => emit('onto', id)" />
    <template v-else>
      <ChoiceField v-for="one in thicknesses" :key="one.key" :label="`${one.parts === 1 ? '1 part' : `${one.parts} parts`} of ${one.key} mm from`" :value="byThickness[one.key] ?? ''" :options="[...stocks.map((s) => s.id), '']" :names="sheets(one.key)" :save="(id) => emit('thickness', one.key, id)" />
      <p v-for="one in differing" :key="`d${one.key}`" class="explain">Drawn {{ one.key }}; the sheet in hand is {{ plain(one.in_hand!, 'mm') }}.</p>
    </template>
    <ChoiceField v-if="!onPart && !allKnown" label="Cut from" :value="stock" :options="stocks.map((s) => s.id)" :names="named(stocks)" empty="choose a stock" :save="(id) => emit('stock', id)" />
    <p v-if="tooMany" class="why">{{ tooMany }}</p>
    <ActButton look="main" :disabled="!ready || going" @click="emit('take')">{{ says }}</ActButton>
  </div>
</template>

<style scoped>
.explain { margin: -4px 0 0; color: var(--soft-ink); font-size: 12px; }
.take { border-top: 1px solid var(--ink); background: var(--paper); padding: 8px 14px 10px; display: grid; gap: 8px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size, Stock } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import { plain, withUnit } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** What a cutter really cuts as it goes round now: as its shank, typed, or from a plug and the hole that it fell out of. */
const props = defineProps<{ stock: Stock; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

const cutter = computed(() => workshop.document?.cutters.find(({ id }) => id === workshop.document?.preparation.routing.cutter)?.name ?? 'the cutter')
const others = computed(() => props.facts.widths.filter(({ now: goes }) => !goes))
const place = computed(() => props.facts.widths.find(({ now: goes }) => goes)?.place ?? -1)
/** That of how it goes now, if it was measured so. */
const now = computed(() => widthsOf(props.stock)[place.value]?.width ?? null)

function widthsOf(stock: Stock | undefined): Stock['on'][number]['widths'] {
  return stock?.on.find(({ machine }) => machine === workshop.document?.machine)?.widths ?? []
}

const mm = (value: number): Size => ({ text: plain(value, 'mm'), unit: 'mm' })
function put(width: Stock['kerf'] | null): Promise<Refusal | null> {
  return edits.edit({ do: 'set cutter width', stock: props.stock.id, width })
}

function forget(other: number): void {
  void edits.change({ do: 'set cutter width', stock: props.stock.id, at: widthsOf(props.stock)[other]?.at ?? null })
}

function setWay(how: string): void {
  const { kerf } = props.facts
  if (how === 'shank') void edits.told(put(null))
  if (how === 'typed') void edits.told(put({ how: 'typed', width: mm(kerf) }))
  // A plug of 40 mm, to be overwritten by what is read.
  if (how === 'plug') void edits.told(put({ how: 'plug', hole: mm(40 + kerf), plug: mm(40 - kerf) }))
}

/** Changes one measure of the plug and its hole, whichever of the two is still on its way. */
function saveCut(change: Partial<Record<'hole' | 'plug', Size>>): Promise<Refusal | null> {
  return edits.edit(({ stocks }) => {
    const width = widthsOf(stocks.find(({ id }) => id === props.stock.id))[place.value]?.width
    return width?.how === 'plug' ? { do: 'set cutter width', stock: props.stock.id, width: { ...width, ...change } } : null
  })
}
</script>

<template>
  <p class="big-number">{{ withUnit(facts.kerf, workshop.unit) }} <small>what {{ cutter }} cuts, {{ facts.goes }}</small></p>
  <WayField label="How its width is known" :value="now?.how ?? (facts.kerf === facts.shank ? 'shank' : '')" :options="['shank', 'typed', 'plug']" :names="{ shank: 'as its shank', plug: 'from a plug and its hole' }" :save="setWay" />
  <div class="stack">
    <SizeField v-if="now?.how === 'typed'" label="It cuts" :size="now.width" :save="(width) => put({ how: 'typed', width })" />
    <template v-if="now?.how === 'plug'">
      <SizeField label="Hole" :size="now.hole" :save="(hole) => saveCut({ hole })" />
      <SizeField label="Plug" :size="now.plug" :save="(plug) => saveCut({ plug })" />
      <p class="explain">(hole − plug) / 2 = {{ withUnit(facts.kerf, workshop.unit) }}</p>
    </template>
    <p class="explain">Its shank measures {{ withUnit(facts.shank ?? 0, workshop.unit) }}. A cutter runs out and is bent aside, more in deeper steps, and otherwise climbing than not: each way has its own width.</p>
    <ul v-if="others.length" class="others">
      <li v-for="one in others" :key="one.place">measured {{ one.said }} too <ActButton :aria-label="`Forget the width ${one.said}`" @click="forget(one.place)">forget</ActButton></li>
    </ul>
  </div>
</template>

<style scoped>
.others { margin: 0; padding-left: 16px; }
</style>

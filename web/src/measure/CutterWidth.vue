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
const own = computed(() => props.facts.widths)
const others = computed(() => own.value.filter(({ now: goes }) => !goes))
const place = computed(() => own.value.find(({ now: goes }) => goes)?.place ?? -1)
/** That of how it goes now, if it was measured so. */
const now = computed(() => widthsOf(props.stock)[place.value]?.width ?? null)

function widthsOf(stock: Stock | undefined): Stock['on'][number]['widths'] {
  return stock?.on.find(({ machine }) => machine === workshop.document?.machine)?.widths ?? []
}

const mm = (value: number): Size => ({ text: plain(value, 'mm'), unit: 'mm' })
function put(width: Stock['kerf'] | null): Promise<Refusal | null> {
  return edits.edit({ do: 'set cutter width', stock: props.stock.id, width })
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
  <WayField label="How its width is known" :value="now?.how ?? (own.length ? '' : 'shank')" :options="['shank', 'typed', 'plug']" :names="{ shank: 'as its shank', plug: 'from a plug and its hole' }" :save="setWay" />
  <div class="stack">
    <SizeField v-if="now?.how === 'typed'" label="It cuts" :size="now.width" :save="(width) => put({ how: 'typed', width })" />
    <template v-if="now?.how === 'plug'">
      <SizeField label="Hole" :size="now.hole" :save="(hole) => saveCut({ hole })" />
      <SizeField label="Plug" :size="now.plug" :save="(plug) => saveCut({ plug })" />
      <p class="explain">(hole − plug) / 2 = {{ withUnit(facts.kerf, workshop.unit) }}</p>
    </template>
    <p class="explain">Its shank measures {{ withUnit(facts.shank ?? 0, workshop.unit) }}. A cutter runs out and is bent aside, more in deeper steps, and otherwise climbing than not: each way has its own width.</p>
    <ul v-if="others.length" class="others">
      <li v-for="(one, at) in others" :key="at">also measured {{ one.said }}</li>
    </ul>
    <p v-if="own.length"><ActButton @click="setWay('shank')">Forget all its widths</ActButton></p>
  </div>
</template>

<style scoped>
.others { margin: 0; padding-left: 16px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Known, Schemas, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import { fine, plain } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** How wide the cut is on the lower face, and the face on which parts come out as they were typed. */
const props = defineProps<{ stock: string; known: Known; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

type Below = NonNullable<Known['below']>
type MadeFor = NonNullable<Known['made_for']>
const FACES: MadeFor[] = ['the upper face', 'the middle', 'the lower face']

const walls = computed(() => props.facts.walls)
const says = computed(() => (walls.value ? `${fine(walls.value.below, workshop.unit)} below, walls lean ${walls.value.lean.toFixed(1)}°` : 'not measured: straight walls'))
const mm = (value: number): Size => ({ text: plain(value, 'mm'), unit: 'mm' })

function put(below: Below): Promise<Refusal | null> {
  return edits.editKnown(props.stock, () => ({ below }))
}

/** Changes one measure of the plug and its hole, as they are below. */
function saveCut(change: Partial<Record<'hole' | 'plug', Size>>): Promise<Refusal | null> {
  return edits.editKnown(props.stock, ({ below }) => ({ below: { ...below, ...change } as Below }))
}

/** As wide as above to begin with, to be overwritten by what is read. */
function setWay(how: string): void {
  const width = walls.value?.below ?? props.facts.kerf
  if (how === 'typed') void edits.told(put({ how: 'typed', width: mm(width) }))
  if (how === 'plug') void edits.told(put({ how: 'plug', hole: mm(20 + width), plug: mm(20 - width) }))
}

function straight(): void {
  void edits.told(edits.editKnown(props.stock, () => ({ straight: true })))
}
</script>

<template>
  <FoldSection title="Lower face" :says="says" name="lower-face" folded>
    <div class="stack">
      <WayField label="How the lower face is known" :value="known.below?.how ?? ''" :options="['typed', 'plug']" :names="{ typed: 'typed', plug: 'of a plug, read below' }" :save="setWay" />
      <SizeField v-if="known.below?.how === 'typed'" label="Cut below" :size="known.below.width" :save="(width) => put({ how: 'typed', width })" />
      <template v-if="known.below?.how === 'plug'">
        <SizeField label="Below, in the hole" :size="known.below.hole" :save="(hole) => saveCut({ hole })" />
        <SizeField label="Below, over the plug" :size="known.below.plug" :save="(plug) => saveCut({ plug })" />
      </template>
      <template v-if="known.below">
        <ChoiceField label="Made for" :value="known.made_for ?? 'the middle'" :options="FACES" :save="(face) => { void edits.told(edits.editKnown(stock, () => ({ made_for: face }))) }" />
        <p><ActButton @click="straight">Walls are straight</ActButton></p>
      </template>
      <p class="explain">A beam cuts a wedge: read the same strip or plug on the face that lay below. The ledger then has both faces, and a fit is judged by the tighter one.</p>
    </div>
  </FoldSection>
</template>

<script setup lang="ts">
import { computed } from 'vue'

import type { Known, Schemas, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import { fine, plain } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** How wide the cut is along y of the machine, where that is another than along x. */
const props = defineProps<{ stock: string; known: Known; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

type Up = NonNullable<Known['up']>

const ways = computed(() => props.facts.ways)
const says = computed(() => {
  const { across, up, told } = ways.value ?? { across: 0, up: 0, told: false }
  return told ? `${fine(across, workshop.unit)} along x, ${fine(up, workshop.unit)} along y` : 'the same both ways'
})
const mm = (value: number): Size => ({ text: plain(value, 'mm'), unit: 'mm' })

function put(up: Up): Promise<Refusal | null> {
  return edits.editKnown(props.stock, () => ({ up }))
}

/** Changes one measure of the plug and its hole, as they are along y. */
function saveCut(change: Partial<Record<'hole' | 'plug', Size>>): Promise<Refusal | null> {
  return edits.editKnown(props.stock, ({ up }) => ({ up: { ...up, ...change } as Up }))
}

/** As wide as along x to begin with, to be overwritten by what is read. */
function setWay(how: string): void {
  const width = ways.value?.up ?? props.facts.kerf
  if (how === 'typed') void edits.told(put({ how: 'typed', width: mm(width) }))
  if (how === 'plug') void edits.told(put({ how: 'plug', hole: mm(20 + width), plug: mm(20 - width) }))
}

function even(): void {
  void edits.told(edits.editKnown(props.stock, () => ({ evenly: true })))
}
</script>

<template>
  <FoldSection title="By direction" :says="says" name="kerf-by-direction" folded>
    <div class="stack">
      <WayField label="How it is known along y" :value="known.up?.how ?? ''" :options="['typed', 'plug']" :names="{ typed: 'typed', plug: 'of a square, read along y' }" :save="setWay" />
      <SizeField v-if="known.up?.how === 'typed'" label="Along y" :size="known.up.width" :save="(width) => put({ how: 'typed', width })" />
      <template v-if="known.up?.how === 'plug'">
        <SizeField label="Along y, inside" :size="known.up.hole" :save="(hole) => saveCut({ hole })" />
        <SizeField label="Along y, over it" :size="known.up.plug" :save="(plug) => saveCut({ plug })" />
      </template>
      <p v-if="ways && !ways.told && ways.across !== ways.up" class="explain">{{ fine(ways.across, workshop.unit) }} along x and {{ fine(ways.up, workshop.unit) }} along y are no further apart than readings scatter: their mean is used.</p>
      <p v-if="known.up"><ActButton @click="even">It cuts evenly</ActButton></p>
      <p class="explain">Many beams are wider one way. Read one square both ways, x and y as the machine has them: lines are then shifted by what each direction takes, however parts lie.</p>
    </div>
  </FoldSection>
</template>

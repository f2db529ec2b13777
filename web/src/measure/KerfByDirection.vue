<script setup lang="ts">
import { computed } from 'vue'

import type { Known, Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import { fine } from '../kit/units'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import KerfElsewhere from './KerfElsewhere.vue'

/** How wide the cut is along y of the machine, where that is another than along x. */
const props = defineProps<{ stock: string; known: Known; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

const SAYS = { known: 'How it is known along y', plug: 'of a square, read along y', typed: 'Along y', hole: 'Along y, inside', over: 'Along y, over it' }
const ways = computed(() => props.facts.ways)
const says = computed(() => {
  const { across, up, told } = ways.value ?? { across: 0, up: 0, told: false }
  return told ? `${fine(across, workshop.unit)} along x, ${fine(up, workshop.unit)} along y` : 'the same both ways'
})

function even(): void {
  void edits.told(edits.editKnown(props.stock, () => ({ evenly: true })))
}
</script>

<template>
  <FoldSection title="By direction" :says="says" name="kerf-by-direction" folded>
    <div class="stack">
      <KerfElsewhere :stock="stock" :known="known" field="up" :width="ways?.up ?? facts.kerf" :says="SAYS" />
      <p v-if="ways && !ways.told" class="explain">{{ fine(ways.across, workshop.unit) }} along x and {{ fine(ways.up, workshop.unit) }} along y are no further apart than readings scatter: their mean is used.</p>
      <p v-if="known.up"><ActButton @click="even">It cuts evenly</ActButton></p>
      <p class="explain">Many beams are wider one way. Read one square both ways, x and y as the machine has them: lines are then shifted by what each direction takes, however parts lie.</p>
    </div>
  </FoldSection>
</template>

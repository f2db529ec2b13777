<script setup lang="ts">
import { computed } from 'vue'

import type { Known, Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import { fine } from '../kit/units'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import KerfElsewhere from './KerfElsewhere.vue'

/** How wide the cut is on the lower face, and the face on which parts come out as they were typed. */
const props = defineProps<{ stock: string; known: Known; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

type MadeFor = NonNullable<Known['made_for']>
const FACES: MadeFor[] = ['the upper face', 'the middle', 'the lower face']
const SAYS = { known: 'How the lower face is known', plug: 'of a plug, read below', typed: 'Cut below', hole: 'Below, in the hole', over: 'Below, over the plug' }

const walls = computed(() => props.facts.walls)
const says = computed(() => (walls.value ? `${fine(walls.value.below, workshop.unit)} below, walls lean ${walls.value.lean.toFixed(1)}°` : 'not measured: straight walls'))

function straight(): void {
  void edits.told(edits.editKnown(props.stock, () => ({ straight: true })))
}
</script>

<template>
  <FoldSection title="Lower face" :says="says" name="lower-face" folded>
    <div class="stack">
      <KerfElsewhere :stock="stock" :known="known" field="below" :width="walls?.below ?? facts.kerf" :says="SAYS" />
      <template v-if="known.below">
        <ChoiceField label="Made for" :value="known.made_for ?? 'the middle'" :options="FACES" :save="(face) => { void edits.told(edits.editKnown(stock, () => ({ made_for: face }))) }" />
        <p><ActButton @click="straight">Walls are straight</ActButton></p>
      </template>
      <p class="explain">A beam cuts a wedge: read the same strip or plug on the face that lay below. The ledger then has both faces, and a fit is judged by the tighter one.</p>
    </div>
  </FoldSection>
</template>

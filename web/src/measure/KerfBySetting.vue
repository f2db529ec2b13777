<script setup lang="ts">
import { computed } from 'vue'

import type { Known, Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import { fine } from '../kit/units'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The kerfs of a stock at the settings that they were measured at: between them it is reckoned. */
const props = defineProps<{ stock: string; known: Known; facts: Schemas['StockShown'] }>()
const workshop = useWorkshop()
const edits = useEdits()

const mm = (value: number): string => fine(value, workshop.unit)
const says = computed(() => (props.facts.kerfs.length === 1 ? `at ${props.facts.kerfs[0]?.at ?? ''}` : `at ${props.facts.kerfs.length} settings`))

/** The first is the one that is taken; the others can be forgotten. */
function forget(at: number): void {
  void edits.told(edits.editKnown(props.stock, ({ kerfs }) => ({ kerfs: (kerfs ?? []).filter((_, other) => other !== at - 1) })))
}
</script>

<template>
  <FoldSection title="Measured at" :says="says" name="kerf-by-setting" folded>
    <ul class="kerfs">
      <li v-for="(one, at) in facts.kerfs" :key="at">{{ mm(one.above) }}<template v-if="one.below !== one.above"> / {{ mm(one.below) }} below</template> at {{ one.at }} <ActButton v-if="at > 0" :aria-label="`Forget the kerf at ${one.at}`" @click="forget(at)">forget</ActButton></li>
    </ul>
    <p class="explain">Cut slower or stronger, a beam takes more. Between two settings the kerf is reckoned; beyond them the nearest is taken, with a note.</p>
  </FoldSection>
</template>

<style scoped>
.kerfs { margin: 0; padding-left: 16px; display: grid; gap: 4px; }
</style>

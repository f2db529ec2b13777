<script setup lang="ts">
import { computed } from 'vue'

import type { Stock } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** What a stock wants of the heat of a beam: how cuts are begun where they are seen, and what webs stand. */
const props = defineProps<{ stock: Stock; put: (change: Partial<Stock>) => Promise<Refusal | null> }>()
const workshop = useWorkshop()

type Heat = Stock['heat']
const heat = computed(() => props.stock.heat)
const SIDES: NonNullable<Heat['side']>[] = ['any', 'left', 'right', 'bottom', 'top']
const SIDE = { any: 'anywhere', left: 'at its left', right: 'at its right', bottom: 'at its bottom', top: 'at its top' }

function set(change: Partial<Heat>): Promise<Refusal | null> {
  return props.put({ heat: { ...heat.value, ...change } })
}

function now(change: Partial<Heat>): void {
  void set(change).then((why) => { if (why) workshop.say(why.message) })
}
</script>

<template>
  <div class="stack">
    <SizeField label="Lead-in where edges show" :size="heat.lead" :save="(lead) => set({ lead })" />
    <ChoiceField label="Begun, as the part is drawn" :value="heat.side" :options="SIDES" :names="SIDE" :save="(side) => now({ side })" />
    <PlainField label="A thin web cools for, s" :value="heat.rests" :most="600" :save="(rests) => now({ rests: Number(rests) })" />
    <PlainField label="Web for 1 % s/mm, mm" :value="heat.web" :most="20" :save="(web) => now({ web: Number(web) })" />
    <p class="explain">Power × passes / speed is what each millimetre of a cut gets, on both sides of a web. What is narrower than its share is scorched, warps or drops. The values to begin with are common practice.</p>
  </div>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

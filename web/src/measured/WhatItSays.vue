<script setup lang="ts">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import { fine as toThousandths } from '../kit/units'
import type { Stock } from '../api/client'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { keyOf, LEFT_OUT, percent, type Length, type SheetMeasured } from './lengths'

/** What the readings say together, how sure that is, what was left out, and what is taken over. */
const props = defineProps<{ sheet: SheetMeasured; lengths: Length[]; stockName: string }>()
defineEmits<{ pick: [length: Length] }>()
const workshop = useWorkshop()
const edits = useEdits()

type Cause = SheetMeasured['estimates'][number]['cause']
const of = (cause: Cause): SheetMeasured['estimates'][number] | undefined => props.sheet.estimates.find((one) => one.cause === cause)
const called = computed(() => new Map(props.lengths.map((one) => [keyOf(one), one.called])))
const fine = (mm: number): string => `${toThousandths(mm, workshop.unit)} ${workshop.unit}`

const kerf = computed(() => of('kerf'))
const found = computed(() => Math.round((props.sheet.kerf + (kerf.value?.value ?? 0)) * 1000) / 1000)
const taken = computed(() => {
  const stock = workshop.document?.stocks.find(({ id }) => id === props.sheet.stock)
  const known = stock?.on.find(({ machine }) => machine === props.sheet.machine) ?? stock
  if (props.sheet.routed) return !!stock && isWidth(stock, found.value)
  const last = known?.history.at(-1)
  const below = taper.value?.told ? Math.round((found.value + taper.value.value) * 1000) / 1000 : null
  const wide = !oval.value?.told || !!known?.up
  return wide && last?.kerf === found.value && (below === null || last.below === below)
})
/** Whether it is what the cutter is said to cut, going round as it did. */
function isWidth(stock: Stock, width: number): boolean {
  const routed = JSON.stringify(workshop.document?.measured.find(({ id }) => id === props.sheet.id)?.routed)
  const widths = stock.on.find(({ machine }) => machine === props.sheet.machine)?.widths ?? []
  const known = widths.find(({ at }) => JSON.stringify(at) === routed)?.width
  return known?.how === 'typed' && Number(known.width.text) === width
}
const scales = computed(() => (['scale x', 'scale y'] as const).map((cause) => ({ way: cause === 'scale x' ? 'x' : 'y', ...(of(cause) ?? { value: 0, sure: 0, told: false, known: false }) })))
const taper = computed(() => of('taper'))
/** By how much the cut is wider along y, with what the file made up for already. */
const oval = computed(() => of('oval'))
const ovalNow = computed(() => props.sheet.oval + (oval.value?.value ?? 0))
/** Where parts were read for how thick they are. */
const thick = computed(() => of('thickness'))
/** Where legs of bent parts were read. */
const bend = computed(() => of('K'))
const bendTaken = computed(() => {
  const k = workshop.shown?.stocks[props.sheet.stock]?.bending.k
  return k !== undefined && Math.abs(k - props.sheet.k - (bend.value?.value ?? 0)) < 0.0015
})
const out = computed(() => props.sheet.reads.filter(({ left_out }) => left_out))
const counted = computed(() => props.sheet.reads.length - out.value.length)
const machine = computed(() => workshop.document?.machines.find(({ id }) => id === props.sheet.machine)?.name ?? 'this machine')
</script>

<template>
  <section class="says" aria-label="What they say together" aria-live="polite">
    <h2>What they say together</h2>
    <p v-if="kerf?.told"><b>{{ sheet.routed ? 'The cutter cuts' : 'Kerf' }} {{ toThousandths(found, workshop.unit) }} ± {{ fine(kerf.sure) }}</b>, thought to be {{ fine(sheet.kerf) }}.</p>
    <p v-else-if="kerf?.known">Kerf {{ fine(found) }} at the best, ± {{ fine(kerf.sure) }}: no other than {{ fine(sheet.kerf) }} is told surely.</p>
    <p v-else>Kerf {{ fine(sheet.kerf) }} as thought: nothing else is told yet.</p>
    <p>{{ counted }} {{ counted === 1 ? 'reading' : 'readings' }} on {{ machine }} for {{ stockName }}<template v-if="sheet.beside.length">, with those of {{ sheet.beside.join(', ') }}, which agree</template>.</p>
    <p v-for="one in scales" :key="one.way">
      <template v-if="one.told"><b>{{ one.way }} comes out {{ percent(one.value) }}</b> ± {{ percent(one.sure).replace('+', '') }}: {{ fine(Math.abs(one.value) * 300) }} in 300 mm; its steps per mm are set at the machine.</template>
      <template v-else>Scale of {{ one.way }}: true within {{ percent(one.sure).replace('+', '') }}.</template>
    </p>
    <p v-if="sheet.against" class="why">What was measured on {{ sheet.against }} says another kerf: the machine has changed since, or one of the two is wrong. It is not counted in.</p>
    <p v-if="taper?.told"><b>Taper</b>: below, the cut is {{ fine(Math.abs(taper.value)) }} {{ taper.value < 0 ? 'narrower' : 'wider' }} than above, ± {{ fine(taper.sure) }}.</p>
    <p v-else-if="!sheet.routed && taper && !taper.known">Whether the walls lean is not known: two of these, read on the lower face, would tell.</p>
    <p v-if="oval?.told"><b>By direction</b>: along y, the cut is {{ fine(Math.abs(ovalNow)) }} {{ ovalNow < 0 ? 'narrower' : 'wider' }} than along x, ± {{ fine(oval.sure) }}.</p>
    <p v-if="thick?.told"><b>The sheet is {{ fine(Math.abs(thick.value)) }} {{ thick.value < 0 ? 'thinner' : 'thicker' }}</b> than its stock was read, ± {{ fine(thick.sure) }}.</p>
    <p v-if="bend?.known"><b v-if="bend.told">K {{ (sheet.k + bend.value).toFixed(3) }} ± {{ bend.sure.toFixed(3) }}</b><template v-else>K {{ (sheet.k + bend.value).toFixed(3) }} at the best, ± {{ bend.sure.toFixed(3) }}</template>, thought to be {{ sheet.k.toFixed(3) }}: so long come its legs out.</p>
    <p v-if="sheet.reads.length > 1">What is left scatters by {{ fine(sheet.spread) }}.</p>
    <p v-if="sheet.more">One more reading would tell most: <ActButton @click="$emit('pick', sheet.more)">{{ sheet.more.called }}</ActButton>.</p>
    <ul v-if="out.length" class="out">
      <li v-for="one in out" :key="keyOf(one)" class="why">{{ called.get(keyOf(one)) ?? 'A length' }}: {{ fine(one.value) }} where {{ fine(one.meant) }} was meant; left out, {{ one.left_out ? LEFT_OUT[one.left_out] : '' }}.</li>
    </ul>
    <p v-if="kerf?.known && (taken || oval?.told || Math.abs(kerf.value) >= 0.001)">
      <ActButton v-if="!taken" :look="kerf.told ? 'main' : 'plain'" @click="edits.change({ do: 'take measured kerf', id: sheet.id })">Take {{ sheet.routed ? 'width' : 'kerf' }} {{ fine(found) }}{{ taper?.told && !sheet.routed ? ` and ${fine(found + taper.value)} below` : '' }} {{ oval?.told && !sheet.routed ? ', by direction,' : '' }} from now on</ActButton>
      <span v-else role="status">{{ sheet.routed ? 'Width' : 'Kerf' }} {{ fine(found) }} is taken: every notch and slot has followed.</span>
    </p>
    <p v-if="thick?.told"><ActButton @click="edits.change({ do: 'take read thickness', id: sheet.id })">Take what they measure for the thickness of the stock</ActButton></p>
    <p v-if="bend?.known">
      <ActButton v-if="!bendTaken" :look="bend.told ? 'main' : 'plain'" @click="edits.change({ do: 'take measured K', id: sheet.id })">Take K {{ (sheet.k + bend.value).toFixed(3) }} from now on</ActButton>
      <span v-else role="status">K {{ (sheet.k + bend.value).toFixed(3) }} is taken: every flat length has followed.</span>
    </p>
  </section>
</template>

<style scoped>
.says { display: grid; gap: 5px; margin-top: 8px; }
.out { margin: 0; padding: 0; list-style: none; display: grid; gap: 3px; }
</style>

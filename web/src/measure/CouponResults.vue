<script setup lang="ts">
import { computed, defineAsyncComponent, reactive, ref, watch } from 'vue'

import type { Schemas, Size, Stock } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import { useChoice } from '../state/choice'
import { inLibrary } from '../state/library'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import WayField from '../kit/WayField.vue'

/** What a cut coupon showed: its kerf, and how each marked pair felt. The stock's values follow. */
const props = defineProps<{ stock: Stock }>()
const workshop = useWorkshop()
const edits = useEdits()
const picked = useChoice()

/** A calendar is much to load for the one day that is typed here. */
const DateField = defineAsyncComponent(() => import('../kit/DateField.vue'))

type Feel = Schemas['Felt']['feel']
type KerfWay = 'not measured' | 'strip' | 'plug'
type Typed = 'total' | 'hole' | 'plug' | 'holeUp' | 'plugUp'
const NOTHING: Size = { text: '', unit: 'mm' }
const FEELS: Feel[] = ['stiff', 'firm', 'holds until tapped', 'falls apart']
const USUAL = [-0.1, -0.05, 0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3]

const today = (): string => new Date().toLocaleDateString('sv-SE')
const date = ref(today())
const way = ref<KerfWay>('not measured')
const measured = reactive<Record<Typed, Size>>({ total: NOTHING, hole: NOTHING, plug: NOTHING, holeUp: NOTHING, plugUp: NOTHING })
const felt = ref<Record<string, Feel>>({})
const refusal = ref('')
const done = ref('')

/** The pairs of the comb in this project, or those of the usual comb. */
const pairs = computed(() => {
  const comb = workshop.document?.parts.find((part) => part.id === 'comb')
  const marked = comb?.cutouts.flatMap(({ hole }) => (hole.kind === 'text' ? [Number(hole.text)] : [])).filter(Number.isFinite) ?? []
  return marked.length ? marked : USUAL
})

watch(() => props.stock.id, () => {
  felt.value = {}
  done.value = refusal.value = ''
  way.value = 'not measured'
})

function keep(which: Typed, size: Size): Promise<null> {
  measured[which] = size
  return Promise.resolve(null)
}

function kerf(): Stock['kerf'] | null {
  if (way.value === 'plug') return { how: 'plug', hole: measured.hole, plug: measured.plug }
  if (way.value === 'not measured') return null
  const tenth: Size = { text: `(${measured.total.text})/10`, unit: measured.total.unit }
  return { how: 'strip', strip: { text: '100', unit: 'mm' }, pieces: Array.from({ length: 10 }, () => tenth) }
}

/** The same square along y of the machine, where it was read both ways. */
function up(): Stock['kerf'] | null {
  const read = way.value === 'plug' && (measured.holeUp.text || measured.plugUp.text)
  return read ? { how: 'plug', hole: measured.holeUp, plug: measured.plugUp } : null
}

async function record(): Promise<void> {
  const answers = Object.entries(felt.value).map(([clearance, feel]) => ({ clearance: Number(clearance), feel }))
  const measuredKerf = kerf()
  if (!answers.length && !measuredKerf) {
    refusal.value = 'Nothing is entered yet: say how a pair felt, or measure the kerf.'
    return
  }
  const command = { do: 'record coupon', stock: props.stock.id, date: date.value, kerf: measuredKerf, up: up(), felt: answers } as const
  refusal.value = (await edits.edit(command))?.message ?? ''
  if (refusal.value) return
  done.value = `Taken over: kerf and clearances of this stock follow from it, here ${inLibrary()}.`
  felt.value = {}
}
</script>

<template>
  <section aria-label="What came out">
    <h2>What came out{{ picked.machine ? ` of ${picked.machine.name}` : '' }}</h2>
    <div class="stack">
      <DateField v-model="date" label="Cut on" />
      <ChoiceField label="Kerf" :value="way" :options="['not measured', 'strip', 'plug']" :names="{ strip: 'from the strip', plug: 'from the square and its hole' }" :save="(chosen) => { way = chosen }" />
      <SizeField v-if="way === 'strip'" label="Ten pieces side by side" :size="measured.total" :save="(size) => keep('total', size)" />
      <template v-if="way === 'plug'">
        <SizeField label="Hole measures" :size="measured.hole" :save="(size) => keep('hole', size)" />
        <SizeField label="Square measures" :size="measured.plug" :save="(size) => keep('plug', size)" />
        <p class="explain">Read it along y of the machine too, and the kerf is known by direction.</p>
        <SizeField label="Hole, along y" :size="measured.holeUp" :save="(size) => keep('holeUp', size)" />
        <SizeField label="Square, along y" :size="measured.plugUp" :save="(size) => keep('plugUp', size)" />
      </template>
    </div>
    <div class="pairs">
      <div v-for="clearance in pairs" :key="clearance" class="pair">
        <strong>{{ clearance }}</strong>
        <WayField :label="`The pair marked ${clearance}`" :value="felt[clearance] ?? ''" :options="FEELS" :save="(feel) => { if (feel) felt[clearance] = feel }" />
      </div>
    </div>
    <p class="in-line">
      <ActButton look="ink" @click="record">Take over what came out</ActButton>
      <ActButton v-if="Object.keys(felt).length" @click="felt = {}">Clear</ActButton>
    </p>
    <p v-if="refusal" class="why" role="alert">{{ refusal }}</p>
    <p v-else-if="done" class="explain" role="status">{{ done }}</p>
  </section>
</template>

<style scoped>
.pairs { display: grid; gap: 1px; margin: 8px 0; }
.pair { display: grid; grid-template-columns: 42px 1fr; align-items: center; }
.pair strong { font-weight: 400; color: var(--soft-ink); }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

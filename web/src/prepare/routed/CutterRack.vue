<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Size } from '../../api/client'
import ActButton from '../../kit/ActButton.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import TickField from '../../kit/TickField.vue'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import type { Refusal } from '../../state/refusal'
import { TIPS, useRack, type Cutter } from './rack'

/** The rack: which cutter does what, and each of them as it was measured. */
const picked = useChoice()
const edits = useEdits()
const { library, cutters, routing, names, put, putCutter, take, keep } = useRack()
const looked = ref<string | null>(null)
const told = ref('')

const cutter = computed(() => cutters.value.find(({ id }) => id === (looked.value ?? routing.value?.cutter)) ?? cutters.value[0] ?? null)
const ids = computed(() => cutters.value.map(({ id }) => id))
const offered = computed(() => library.value.filter(({ name }) => !cutters.value.some((one) => one.name === name)))
/** What one has that is not chosen apart: the same as cuts parts out. */
const SAME = 'the same'
const roles = computed(() => ['', ...ids.value])
const called = computed(() => ({ ...names.value, '': SAME }))
const rests = computed(() => ({ ...names.value, '': 'nothing' }))
const material = computed(() => picked.stock?.material ?? 'plywood')
const load = computed(() => cutter.value?.chip_loads.find((one) => one.material === material.value) ?? null)

const readings = computed<Size>(() => {
  const all = cutter.value?.readings ?? []
  return { text: all.map((size) => size.text).join('  '), unit: all[0]?.unit ?? 'mm' }
})

function change(what: Partial<Cutter>): Promise<Refusal | null> {
  return cutter.value ? putCutter(cutter.value.id, what) : Promise.resolve(null)
}

function now(what: Partial<Cutter>): void {
  void edits.told(change(what))
}

function saveReadings(size: Size): Promise<Refusal | null> {
  const texts = size.text.split(size.text.includes(';') ? ';' : /\s+/).map((text) => text.trim()).filter(Boolean)
  return change({ readings: texts.map((text) => ({ text, unit: size.unit })) })
}

function number(text: string): number {
  return Number(text.replace(',', '.'))
}

/** A chip load of its own for the material that is looked at; without one the common practice holds. */
function saveLoad(which: 'least' | 'most', text: string): void {
  const others = cutter.value?.chip_loads.filter((one) => one.material !== material.value) ?? []
  const value = number(text)
  if (!text.trim()) return now({ chip_loads: others })
  const before = load.value ?? { material: material.value, least: value / 2, most: value * 2 }
  now({ chip_loads: [...others, { ...before, [which]: value }] })
}

async function takeOne(name: string): Promise<void> {
  const found = library.value.find((one) => one.name === name)
  if (found) looked.value = await take(found)
}

async function keepIt(): Promise<void> {
  if (cutter.value) told.value = await keep(cutter.value)
}
</script>

<template>
  <div v-if="routing" class="stack">
    <ChoiceField v-if="offered.length" label="From the library" :value="null" empty="a cutter …" :options="offered.map(({ name }) => name)" :save="takeOne" />
    <template v-if="cutters.length">
      <ChoiceField label="Parts are cut with" :value="routing.cutter || null" empty="no cutter yet" :options="ids" :names="names" :save="(id) => void edits.told(put(() => ({ cutter: id })))" />
      <ChoiceField label="Pockets with" :value="routing.pockets" :options="roles" :names="called" :save="(id) => void edits.told(put(() => ({ pockets: id })))" />
      <ChoiceField label="Rest of pockets with" :value="routing.rest" :options="roles" :names="rests" :save="(id) => void edits.told(put(() => ({ rest: id })))" />
      <ChoiceField label="Marks with" :value="routing.marks" :options="roles" :names="called" :save="(id) => void edits.told(put(() => ({ marks: id })))" />
      <p class="explain">Drilled where a hole is just as wide:
        <TickField v-for="one in cutters" :key="one.id" :value="routing.drills.includes(one.id) || one.id === routing.cutter" :save="(on) => void edits.told(put(({ drills }) => ({ drills: on ? [...drills, one.id] : drills.filter((id) => id !== one.id) })))">{{ one.name }}</TickField>
      </p>
    </template>
    <p v-else class="explain">No cutter yet: take one from the library, then measure it.</p>
    <section v-if="cutter" class="one" :aria-label="cutter.name">
      <ChoiceField v-if="ids.length > 1" label="Looked at" :value="cutter.id" :options="ids" :names="names" :save="(id) => { looked = id }" />
      <PlainField label="Name" :value="cutter.name" :save="(name) => now({ name })" />
      <ChoiceField label="Tip" :value="cutter.tip" :options="['upcut', 'downcut', 'compression', 'ball', 'V'] as const" :names="TIPS" :save="(tip) => now({ tip })" />
      <SizeField label="Diameter, as sold" :size="cutter.diameter" :save="(diameter) => change({ diameter })" />
      <SizeField label="Caliper readings" :size="readings" :save="saveReadings" />
      <SizeField v-if="cutter.tip === 'V'" label="Whole angle, degrees" :size="cutter.angle" bare :save="(angle) => change({ angle })" />
      <PlainField label="Flutes" :value="cutter.flutes" :most="12" :save="(text) => now({ flutes: number(text) })" />
      <SizeField label="Cuts so deep" :size="cutter.cutting_length" :save="(cutting_length) => change({ cutting_length })" />
      <PlainField label="Top rpm" :value="cutter.top_rpm" :save="(text) => now({ top_rpm: number(text) })" />
      <TickField :value="cutter.plunges" :save="(plunges) => now({ plunges })">It may go straight down</TickField>
      <PlainField :label="`A tooth in ${material}, from mm`" :value="load?.least ?? ''" blank="common practice" :save="(text) => saveLoad('least', text)" />
      <PlainField label="to mm" :value="load?.most ?? ''" blank="common practice" :save="(text) => saveLoad('most', text)" />
      <p class="in-line">
        <ActButton @click="keepIt">Keep in the library</ActButton>
        <ActButton @click="edits.change({ do: 'remove cutter', id: cutter.id })">Take out of the rack</ActButton>
      </p>
    </section>
    <p v-if="told" class="explain" role="status">{{ told }}</p>
  </div>
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
.one { display: grid; gap: 2px; border-top: 1px solid var(--faint-rule); padding-top: 4px; }
</style>

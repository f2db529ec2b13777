<script setup lang="ts">
import { computed, ref } from 'vue'

import type { FingerJoint, Fit, Joint } from '../api/client'
import SizeField from '../fields/SizeField.vue'
import { useWorkshop } from '../stores/workshop'
import { chosen, useJointEdits } from './edit'
import FingerFields from './FingerFields.vue'
import HousingFields from './HousingFields.vue'
import LapFields from './LapFields.vue'
import NutFields from './NutFields.vue'
import SpliceFields from './SpliceFields.vue'
import TabFields from './TabFields.vue'

/** The list of joints, and what is set of the chosen one. */
const workshop = useWorkshop()
const { put, now, value, name } = useJointEdits()

const FITS: Fit[] = ['loose', 'sliding', 'glue', 'press']
const RELIEFS: FingerJoint['relief'][] = ['none', 'dog-bone', 'T-bone, long side', 'T-bone, short side']
const FIELDS = { finger: FingerFields, 'tab-and-slot': TabFields, 'cross-lap': LapFields, splice: SpliceFields, 'captive-nut': NutFields, housing: HousingFields }

const onlyStock = ref('')
const joint = computed(() => workshop.joint)

/** Only openings with inside corners can have reliefs, and only what is cut has a fit. */
const butted = computed(() => joint.value?.kind === 'housing' && !joint.value.groove)

function title(one: Joint): string {
  return `${name(one.a.part)} and ${name(one.b.part)}`
}

function detail(one: Joint): string {
  return `${one.kind}, ${one.a.side} to ${'side' in one.b ? one.b.side : 'face'}`
}

/** One fit for all joints, or for those of one stock. */
function setAll(event: Event): void {
  const select = event.target as HTMLSelectElement
  const choice = select.value
  select.value = ''
  if (!choice) return
  const fit = choice === 'as the project' ? null : (choice as Fit)
  void workshop.change({ do: 'set fits', fit, stock: onlyStock.value || null })
}
</script>

<template>
  <ul class="joints">
    <li v-for="one in workshop.document?.joints" :key="one.id">
      <button type="button" :aria-pressed="one.id === workshop.jointId" @click="workshop.jointId = one.id">
        {{ title(one) }} <small>{{ detail(one) }}</small>
      </button>
    </li>
  </ul>
  <div v-if="joint" class="stack chosen">
    <component :is="FIELDS[joint.kind]" :key="joint.id" />
    <div v-if="joint.kind !== 'splice' && !butted" class="row-field">
      <label for="relief">Corner relief</label>
      <select id="relief" class="text-input" :value="joint.relief" @change="now({ relief: chosen($event) as FingerJoint['relief'] })">
        <option v-for="relief in RELIEFS" :key="relief">{{ relief }}</option>
      </select>
    </div>
    <SizeField v-if="joint.kind !== 'splice' && !butted && joint.relief !== 'none'" :key="`${joint.id}c`" label="for a cutter of" :size="joint.cutter" :value="value('cutter')" :save="(cutter) => put({ cutter })" />
    <div v-if="!butted" class="row-field">
      <label for="joint-fit">Fit</label>
      <select id="joint-fit" class="text-input" :value="joint.fit ?? ''" @change="now({ fit: (chosen($event) || null) as Fit | null })">
        <option value="">as the project: {{ workshop.document?.fit }}</option>
        <option v-for="fit in FITS" :key="fit" :value="fit">{{ fit }}</option>
      </select>
    </div>
    <p class="in-line">
      <button type="button" class="plain-button" @click="workshop.change({ do: 'copy settings', id: joint.id })">Copy to all {{ joint.kind }} joints</button>
      <button type="button" class="plain-button" @click="workshop.change({ do: 'remove joint', id: joint.id })">Remove joint</button>
    </p>
  </div>
  <div v-if="workshop.document?.joints.length" class="row-field all">
    <label for="all-fits">Fit of all joints</label>
    <select id="all-fits" class="text-input" @change="setAll">
      <option value="">choose …</option>
      <option value="as the project">as the project</option>
      <option v-for="fit in FITS" :key="fit" :value="fit">{{ fit }}</option>
    </select>
  </div>
  <div v-if="(workshop.document?.stocks.length ?? 0) > 1" class="row-field">
    <label for="fits-stock">of joints in</label>
    <select id="fits-stock" v-model="onlyStock" class="text-input">
      <option value="">any stock</option>
      <option v-for="stock in workshop.document?.stocks" :key="stock.id" :value="stock.id">{{ stock.name }}</option>
    </select>
  </div>
</template>

<style scoped>
.joints { list-style: none; margin: 0 0 8px; padding: 0; max-height: 190px; overflow-y: auto; }
.joints button { border: 0; background: none; padding: 3px 6px; text-align: left; cursor: pointer; width: 100%; border-left: 2px solid transparent; }
.joints button:hover { background: var(--faint-rule); }
.joints [aria-pressed='true'] { border-left-color: var(--accent); color: var(--accent); font-weight: 600; }
small { display: block; color: var(--soft-ink); font-weight: 400; }
.chosen { border-left: 2px solid var(--accent); padding-left: 8px; }
.all { margin-top: 12px; border-top: 1px solid var(--rule); padding-top: 8px; }
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'

import type { FingerJoint, Fit, Joint } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { useJointEdits } from './edit'
import { FAMILIES } from './families/families'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'

/** The list of joints, and what is set of the chosen one. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const { put, now, value, name } = useJointEdits()

const FITS: Fit[] = ['loose', 'sliding', 'glue', 'press']
const RELIEFS: FingerJoint['relief'][] = ['none', 'dog-bone', 'T-bone, long side', 'T-bone, short side']

const AS_PROJECT = 'as the project'
const onlyStock = ref('')
const joint = computed(() => picked.joint)

/** Only what is cut has a fit; and what has inside corners has reliefs for them. */
const isCut = computed(() => joint.value !== null && (FAMILIES[joint.value.kind].isCut?.(joint.value) ?? true))

function title(one: Joint): string {
  return `${name(one.a.part)} and ${name(one.b.part)}`
}

function detail(one: Joint): string {
  return `${one.kind}, ${one.a.side} to ${'side' in one.b ? one.b.side : 'face'}`
}

/** One fit for all joints, or for those of one stock. */
function setAll(choice: string): void {
  const fit = choice === AS_PROJECT ? null : (choice as Fit)
  void edits.change({ do: 'set fits', fit, stock: onlyStock.value || null })
}

const stocks = computed(() => workshop.document?.stocks ?? [])
const stockNames = computed(() => ({ '': 'any stock', ...Object.fromEntries(stocks.value.map((stock) => [stock.id, stock.name])) }))
</script>

<template>
  <ul class="joints">
    <li v-for="one in workshop.document?.joints" :key="one.id">
      <ActButton look="bare" :pressed="one.id === picked.jointId" @click="picked.pick({ jointId: one.id })">
        {{ title(one) }} <small>{{ detail(one) }}</small>
      </ActButton>
    </li>
  </ul>
  <div v-if="joint" class="stack chosen">
    <component :is="FAMILIES[joint.kind].fields" :key="joint.id" />
    <template v-if="isCut && 'relief' in joint">
      <ChoiceField label="Corner relief" :value="joint.relief" :options="RELIEFS" :save="(relief) => now({ relief })" />
      <SizeField v-if="joint.relief !== 'none'" :key="`${joint.id}c`" label="for a cutter of" :size="joint.cutter" :value="value('cutter')" :save="(cutter) => put({ cutter })" />
    </template>
    <ChoiceField v-if="isCut" label="Fit" :value="joint.fit ?? ''" :options="['', ...FITS]" :names="{ '': `${workshop.document?.fit}, as the project` }" :save="(fit) => now({ fit: fit || null })" />
    <p class="in-line">
      <ActButton @click="edits.change({ do: 'copy settings', id: joint.id })">Copy to all {{ joint.kind }} joints</ActButton>
      <ActButton @click="edits.change({ do: 'remove joint', id: joint.id })">Remove joint</ActButton>
    </p>
  </div>
  <FoldSection v-if="workshop.document?.joints.length" title="Fits of all joints" name="all-fits">
    <ChoiceField label="Fit of all joints" :value="null" empty="choose …" :options="[AS_PROJECT, ...FITS]" :save="setAll" />
    <ChoiceField v-if="stocks.length > 1" label="of joints in" :value="onlyStock" :options="['', ...stocks.map((stock) => stock.id)]" :names="stockNames" :save="(stock) => { onlyStock = stock }" />
  </FoldSection>
</template>

<style scoped>
.joints { list-style: none; margin: 0 0 8px; padding: 0; max-height: 190px; overflow-y: auto; }
.joints .act.el-button { display: block; padding: 3px 6px; text-align: left; cursor: pointer; width: 100%; border-left: 2px solid transparent; }
.joints .act.el-button:hover { background: var(--faint-rule); }
.joints .act.el-button.on { border-left-color: var(--accent); color: var(--accent); font-weight: 600; }
small { display: block; color: var(--soft-ink); font-weight: 400; }
.chosen { border-left: 2px solid var(--accent); padding-left: 8px; }
</style>

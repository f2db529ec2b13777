<script setup lang="ts">
import { computed } from 'vue'

import type { CrossLap, FingerJoint, Fit, Joint, Side, Size } from '../api/client'
import SizeField from '../fields/SizeField.vue'
import { useWorkshop, type Refusal } from '../stores/workshop'

/** The list of joints, and what is set of the chosen one. */
const workshop = useWorkshop()
const FITS: Fit[] = ['loose', 'sliding', 'glue', 'press']
const SIDES: Side[] = ['bottom', 'right', 'top', 'left']

const joint = computed(() => workshop.joint)
const finger = computed(() => (joint.value?.kind === 'finger' ? joint.value : null))
const lap = computed(() => (joint.value?.kind === 'cross-lap' ? joint.value : null))

function name(id: string): string {
  return workshop.document?.parts.find((p) => p.id === id)?.name ?? id
}

function title(one: Joint): string {
  return `${name(one.a.part)} and ${name(one.b.part)}`
}

function detail(one: Joint): string {
  return `${one.kind}, ${one.a.side} to ${one.b.side}`
}

function put(change: Partial<FingerJoint> | Partial<CrossLap>): Promise<Refusal | null> {
  return workshop.editJoint(workshop.jointId ?? '', () => change)
}

function now(change: Partial<FingerJoint> | Partial<CrossLap>): void {
  void workshop.told(put(change))
}

function text(event: Event): string {
  return (event.target as HTMLSelectElement).value
}

function value(field: string): number | undefined {
  return workshop.shown?.values[`joints/${joint.value?.id}/${field}`]
}

function saveAt(which: 'a' | 'b', at: Size): Promise<Refusal | null> {
  return workshop.editJoint(workshop.jointId ?? '', (one) => ({ [which]: { ...one[which], at } }))
}

function setSide(which: 'a' | 'b', side: string): void {
  void workshop.told(workshop.editJoint(workshop.jointId ?? '', (one) => ({ [which]: { ...one[which], side } })))
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
    <template v-if="finger">
      <div v-for="which in ['a', 'b'] as const" :key="which" class="row-field">
        <label :for="`side-${which}`" class="cut-off">{{ name(finger[which].part) }}</label>
        <select :id="`side-${which}`" class="text-input" :value="finger[which].side" @change="setSide(which, text($event))"><option v-for="side in SIDES" :key="side">{{ side }}</option></select>
      </div>
      <SizeField :key="joint.id" label="Finger width, about" :size="finger.finger" :value="value('finger')" :save="(size) => put({ finger: size })" />
      <div class="row-field">
        <label for="starts">Starts with a finger</label>
        <select id="starts" class="text-input" :value="finger.starts" @change="now({ starts: text($event) as 'a' | 'b' })">
          <option value="a">{{ name(finger.a.part) }}</option>
          <option value="b">{{ name(finger.b.part) }}</option>
        </select>
      </div>
    </template>
    <template v-if="lap">
      <template v-for="which in ['a', 'b'] as const" :key="joint.id + which">
        <div class="row-field">
          <label :for="`open-${which}`" class="cut-off">{{ name(lap[which].part) }} opens at</label>
          <select :id="`open-${which}`" class="text-input" :value="lap[which].side" @change="setSide(which, text($event))"><option v-for="side in SIDES" :key="side">{{ side }}</option></select>
        </div>
        <SizeField label="its slot at" :size="lap[which].at" :value="value(`${which}.at`)" :save="(at) => saveAt(which, at)" />
      </template>
      <SizeField :key="`${joint.id}s`" :label="`Share cut from ${name(lap.a.part)}`" :size="lap.share" bare :save="(share) => put({ share })" />
      <SizeField :key="`${joint.id}e`" label="Seating allowance" :size="lap.seating" :value="value('seating')" :save="(seating) => put({ seating })" />
      <SizeField :key="`${joint.id}a`" label="Angle (degrees)" :size="lap.angle" bare :save="(angle) => put({ angle })" />
    </template>
    <div class="row-field">
      <label for="joint-fit">Fit</label>
      <select id="joint-fit" class="text-input" :value="joint.fit ?? ''" @change="now({ fit: (text($event) || null) as Fit | null })">
        <option value="">as the project: {{ workshop.document?.fit }}</option>
        <option v-for="fit in FITS" :key="fit" :value="fit">{{ fit }}</option>
      </select>
    </div>
    <p><button type="button" class="plain-button" @click="workshop.change({ do: 'remove joint', id: joint.id })">Remove joint</button></p>
  </div>
</template>

<style scoped>
.joints { list-style: none; margin: 0 0 8px; padding: 0; max-height: 190px; overflow-y: auto; }
.joints button { border: 0; background: none; padding: 3px 6px; text-align: left; cursor: pointer; width: 100%; border-left: 2px solid transparent; }
.joints button:hover { background: var(--faint-rule); }
.joints [aria-pressed='true'] { border-left-color: var(--accent); color: var(--accent); font-weight: 600; }
small { display: block; color: var(--soft-ink); font-weight: 400; }
.chosen { border-left: 2px solid var(--accent); padding-left: 8px; }
.cut-off { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>

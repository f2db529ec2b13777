<script setup lang="ts">
import { computed, ref } from 'vue'

import type { CrossLap, FingerJoint, Fit, Joint, Side, Size, Splice, TabAndSlot } from '../api/client'
import PlainField from '../fields/PlainField.vue'
import SizeField from '../fields/SizeField.vue'
import { useWorkshop, type Refusal } from '../stores/workshop'

/** The list of joints, and what is set of the chosen one. */
const workshop = useWorkshop()
const FITS: Fit[] = ['loose', 'sliding', 'glue', 'press']
const RELIEFS: FingerJoint['relief'][] = ['none', 'dog-bone', 'T-bone, long side', 'T-bone, short side']
const SIDES: Side[] = ['bottom', 'right', 'top', 'left']

const onlyStock = ref('')

const joint = computed(() => workshop.joint)
const finger = computed(() => (joint.value?.kind === 'finger' ? joint.value : null))
const tabs = computed(() => (joint.value?.kind === 'tab-and-slot' ? joint.value : null))
const splice = computed(() => (joint.value?.kind === 'splice' ? joint.value : null))
const lap = computed(() => (joint.value?.kind === 'cross-lap' ? joint.value : null))

function name(id: string): string {
  return workshop.document?.parts.find((p) => p.id === id)?.name ?? id
}

function title(one: Joint): string {
  return `${name(one.a.part)} and ${name(one.b.part)}`
}

function detail(one: Joint): string {
  return `${one.kind}, ${one.a.side} to ${one.kind === 'tab-and-slot' ? 'face' : one.b.side}`
}

type Change = Partial<FingerJoint> | Partial<CrossLap> | Partial<TabAndSlot> | Partial<Splice>

function put(change: Change): Promise<Refusal | null> {
  return workshop.editJoint(workshop.jointId ?? '', () => change)
}

function now(change: Change): void {
  void workshop.told(put(change))
}

function text(event: Event): string {
  return (event.target as HTMLSelectElement).value
}

function value(field: string): number | undefined {
  return workshop.shown?.values[`joints/${joint.value?.id}/${field}`]
}

/** One fit for all joints, or for those of one stock. */
function setAll(event: Event): void {
  const select = event.target as HTMLSelectElement
  const chosen = select.value
  select.value = ''
  if (!chosen) return
  const fit = chosen === 'as the project' ? null : (chosen as Fit)
  void workshop.change({ do: 'set fits', fit, stock: onlyStock.value || null })
}

function saveAt(which: 'a' | 'b', at: Size): Promise<Refusal | null> {
  return workshop.editJoint(workshop.jointId ?? '', (one) => ({ [which]: { ...one[which], at } }) as Partial<CrossLap>)
}

function saveLine(change: Partial<TabAndSlot['b']>): Promise<Refusal | null> {
  return workshop.editJoint(workshop.jointId ?? '', (one) => ({ b: { ...one.b, ...change } }) as Partial<TabAndSlot>)
}

function setCount(text: string): void {
  const count = Math.round(Number(text))
  now({ count: count >= 3 ? Math.min(301, count) : null })
}

function setSide(which: 'a' | 'b', side: string): void {
  void workshop.told(workshop.editJoint(workshop.jointId ?? '', (one) => ({ [which]: { ...one[which], side } }) as Partial<CrossLap>))
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
      <PlainField :key="`${joint.id}n`" label="or this many fingers" :value="finger.count ?? 'by width'" :save="setCount" />
      <SizeField :key="`${joint.id}i`" label="Inset at the start" :size="finger.inset_start" :value="value('inset_start')" :save="(size) => put({ inset_start: size })" />
      <SizeField :key="`${joint.id}j`" label="Inset at the end" :size="finger.inset_end" :value="value('inset_end')" :save="(size) => put({ inset_end: size })" />
      <SizeField :key="`${joint.id}p`" label="Stand proud by" :size="finger.proud" :value="value('proud')" :save="(size) => put({ proud: size })" />
    </template>
    <template v-if="tabs">
      <div class="row-field">
        <label for="tab-side" class="cut-off">Tabs on {{ name(tabs.a.part) }}</label>
        <select id="tab-side" class="text-input" :value="tabs.a.side" @change="setSide('a', text($event))"><option v-for="side in SIDES" :key="side">{{ side }}</option></select>
      </div>
      <PlainField :key="`${joint.id}n`" label="How many tabs" :value="tabs.tabs" :most="60" :save="(count) => now({ tabs: Number(count) })" />
      <SizeField :key="`${joint.id}w`" label="Tab width" :size="tabs.width" :value="value('width')" :save="(width) => put({ width })" />
      <SizeField :key="`${joint.id}i`" label="Inset of the outer tabs" :size="tabs.inset" :value="value('inset')" :save="(inset) => put({ inset })" />
      <SizeField :key="`${joint.id}p`" label="Stand proud by" :size="tabs.proud" :value="value('proud')" :save="(proud) => put({ proud })" />
      <p class="explain">Line on the face of {{ name(tabs.b.part) }}, from its lower left corner:</p>
      <SizeField :key="`${joint.id}x`" label="begins across" :size="tabs.b.x" :value="value('b.x')" :save="(x) => saveLine({ x })" />
      <SizeField :key="`${joint.id}y`" label="begins up" :size="tabs.b.y" :value="value('b.y')" :save="(y) => saveLine({ y })" />
      <SizeField :key="`${joint.id}t`" label="runs at (degrees)" :size="tabs.b.turn" bare :save="(turn) => saveLine({ turn })" />
      <PlainField :key="`${joint.id}l`" label="Lines" :value="tabs.b.lines" :most="60" :save="(lines) => void workshop.told(saveLine({ lines: Number(lines) }))" />
      <SizeField v-if="tabs.b.lines > 1" :key="`${joint.id}s`" label="Step between lines" :size="tabs.b.step" :value="value('b.step')" :save="(step) => saveLine({ step })" />
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
    <template v-if="splice">
      <div v-for="which in ['a', 'b'] as const" :key="which" class="row-field">
        <label :for="`splice-${which}`" class="cut-off">{{ which === 'a' ? 'Keys' : 'Sockets' }} on {{ name(splice[which].part) }}</label>
        <select :id="`splice-${which}`" class="text-input" :value="splice[which].side" @change="setSide(which, text($event))"><option v-for="side in SIDES" :key="side">{{ side }}</option></select>
      </div>
      <div class="row-field">
        <label for="splice-shape">Shape</label>
        <select id="splice-shape" class="text-input" :value="splice.shape" @change="now({ shape: text($event) as Splice['shape'] })"><option>dovetail</option><option>round knob</option><option>straight</option></select>
      </div>
      <PlainField :key="`${joint.id}n`" label="How many keys" :value="splice.keys" :most="60" :save="(count) => now({ keys: Number(count) })" />
      <SizeField :key="`${joint.id}z`" label="Size of a key" :size="splice.size" :value="value('size')" :save="(size) => put({ size })" />
      <SizeField :key="`${joint.id}d`" label="Depth" :size="splice.depth" :value="value('depth')" :save="(depth) => put({ depth })" />
      <SizeField v-if="splice.shape !== 'round knob'" :key="`${joint.id}r`" label="Corner radius" :size="splice.radius" :value="value('radius')" :save="(radius) => put({ radius })" />
      <div class="row-field">
        <label for="splice-gap">Gap</label>
        <select id="splice-gap" class="text-input" :value="splice.gap" @change="now({ gap: text($event) as Splice['gap'] })"><option>split</option><option>in the sockets</option></select>
      </div>
    </template>
    <div v-if="joint.kind !== 'splice'" class="row-field">
      <label for="relief">Corner relief</label>
      <select id="relief" class="text-input" :value="joint.relief" @change="now({ relief: text($event) as FingerJoint['relief'] })">
        <option v-for="relief in RELIEFS" :key="relief">{{ relief }}</option>
      </select>
    </div>
    <SizeField v-if="joint.kind !== 'splice' && joint.relief !== 'none'" :key="`${joint.id}c`" label="for a cutter of" :size="joint.cutter" :value="value('cutter')" :save="(cutter) => put({ cutter })" />
    <div class="row-field">
      <label for="joint-fit">Fit</label>
      <select id="joint-fit" class="text-input" :value="joint.fit ?? ''" @change="now({ fit: (text($event) || null) as Fit | null })">
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
.explain { color: var(--soft-ink); font-size: 12px; }
.cut-off { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>

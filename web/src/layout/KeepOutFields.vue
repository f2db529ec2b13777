<script setup lang="ts">
import type { SheetAtHand, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'

/** Pieces of a sheet or a bed that are missing, or that a clip holds: rectangles, circles, or drawn by their corners. */
type KeepOut = SheetAtHand['keep_outs'][number]
const props = defineProps<{ keepOuts: KeepOut[]; clipsOnly?: boolean; save: (change: (keepOuts: KeepOut[]) => KeepOut[]) => Promise<Refusal | null> }>()

const BARRING: Record<KeepOut['what'], string> = { clip: 'a clip', missing: 'a missing piece' }
const SHAPES = ['rectangle', 'circle', 'drawn'] as const
const NAMED = { left: 'From the left', bottom: 'From below', width: 'Width', height: 'Height' }

function sides({ shape }: KeepOut): ('left' | 'bottom' | 'width' | 'height')[] {
  return shape === 'rectangle' ? ['left', 'bottom', 'width', 'height'] : shape === 'circle' ? ['left', 'bottom', 'width'] : []
}

function change(which: number, part: Partial<KeepOut>): Promise<Refusal | null> {
  return props.save((all) => all.map((one, at) => (at === which ? { ...one, ...part } : one)))
}

const mm = (text: string): Size => ({ text, unit: 'mm' })

function add(what: KeepOut['what']): void {
  const fresh: KeepOut = { what, shape: 'rectangle', corners: [], left: mm('0'), bottom: mm('0'), width: mm('40'), height: mm('20') }
  void props.save((all) => [...all, fresh])
}

function cornersOf(text: string): KeepOut['corners'] {
  const numbers = text.split(/[\s;,]+/).map(Number).filter(Number.isFinite)
  return Array.from({ length: Math.floor(numbers.length / 2) }, (_, at) => ({ x: numbers[2 * at] ?? 0, y: numbers[2 * at + 1] ?? 0 }))
}

function setShape(which: number, shape: KeepOut['shape']): void {
  const one = props.keepOuts[which]
  const corners = shape === 'drawn' && one && one.corners.length < 3 ? [{ x: 0, y: 0 }, { x: 40, y: 0 }, { x: 40, y: 20 }] : (one?.corners ?? [])
  void change(which, { shape, corners })
}
</script>

<template>
  <div v-for="(one, which) in keepOuts" :key="which" class="keep-out stack" role="group" :aria-label="`${BARRING[one.what]} ${which + 1}`">
    <ChoiceField v-if="!clipsOnly" label="There is" :value="one.what" :options="['clip', 'missing'] as const" :names="BARRING" :save="(what) => void change(which, { what })" />
    <ChoiceField label="Shaped as" :value="one.shape" :options="SHAPES" :save="(shape) => setShape(which, shape)" />
    <SizeField v-for="side in sides(one)" :key="side" :label="one.shape === 'circle' && side === 'width' ? 'Diameter' : NAMED[side]" :size="one[side]" :save="(size) => change(which, { [side]: size })" />
    <PlainField v-if="one.shape === 'drawn'" label="Corners, x y; …" :value="one.corners.map(({ x, y }) => `${x} ${y}`).join('; ')" :save="(text) => void change(which, { corners: cornersOf(text) })" />
    <p><ActButton @click="save((all) => all.filter((_, at) => at !== which))">Take it away</ActButton></p>
  </div>
  <p class="in-line">
    <ActButton @click="add('clip')">{{ clipsOnly ? 'Add a keep-out' : 'Add a clip' }}</ActButton>
    <ActButton v-if="!clipsOnly" @click="add('missing')">Add a missing piece</ActButton>
  </p>
</template>

<style scoped>
.keep-out { border-left: 2px solid var(--rule); padding-left: 8px; margin: 4px 0; }
</style>

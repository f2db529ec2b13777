<script setup lang="ts">
import type { Size } from '../../api/client'
import ChoiceField from '../../kit/ChoiceField.vue'
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useEdits } from '../../state/edits'
import type { Refusal } from '../../state/refusal'
import { useRack, type Routing } from './rack'

/** How the router goes through the sheet: in which direction, how it gets down, and how pockets are cleared. */
const edits = useEdits()
const { routing, put } = useRack()

type Sizes = 'overcut' | 'finishing' | 'ramp' | 'lead' | 'peck' | 'mark_depth' | 'safe' | 'clips'

function size(field: Sizes): (size: Size) => Promise<Refusal | null> {
  return (typed) => put(() => ({ [field]: typed }))
}

function now(change: Partial<Routing>): void {
  void edits.told(put(() => change))
}

function stepover(text: string): void {
  const share = Number(text.replace(',', '.')) / 100
  now({ stepover: share })
}
</script>

<template>
  <div v-if="routing" class="stack">
    <SizeField label="Below the thickest reading" :size="routing.overcut" :save="size('overcut')" />
    <ChoiceField label="Direction" :value="routing.direction" :options="['climb', 'conventional'] as const" :save="(direction) => now({ direction })" />
    <ChoiceField label="Gets down" :value="routing.entry" :options="['ramp', 'helix', 'straight'] as const" :names="{ ramp: 'by a ramp', helix: 'in a helix', straight: 'straight, if it may' }" :save="(entry) => now({ entry })" />
    <SizeField label="Ramp, degrees" :size="routing.ramp" bare :save="size('ramp')" />
    <SizeField label="Finishing allowance" :size="routing.finishing" :save="size('finishing')" />
    <SizeField label="Lead arcs on the waste" :size="routing.lead" :save="size('lead')" />
    <ChoiceField label="Outlines" :value="routing.goes" :options="['one after the other', 'pass by pass'] as const" :names="{ 'pass by pass': 'all of them, pass by pass' }" :save="(goes) => now({ goes })" />
    <ChoiceField label="Outer corners" :value="routing.corners" :options="['round', 'sharp'] as const" :names="{ round: 'rolled round', sharp: 'gone round sharp' }" :save="(corners) => now({ corners })" />
    <ChoiceField label="Pockets" :value="routing.clearing" :options="['offsets', 'zigzag'] as const" :names="{ offsets: 'ring by ring, inside out', zigzag: 'row by row, then the wall' }" :save="(clearing) => now({ clearing })" />
    <PlainField label="Rings or rows apart, %" :value="Math.round(routing.stepover * 100)" :save="stepover" />
    <SizeField label="Pecks of a drill" :size="routing.peck" :save="size('peck')" />
    <SizeField label="Marks so deep" :size="routing.mark_depth" :save="size('mark_depth')" />
    <SizeField label="Safe height" :size="routing.safe" :save="size('safe')" />
    <SizeField label="Clips stand up" :size="routing.clips" :save="size('clips')" />
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import { typed } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** The four corners of a rectangle, each of which may be round or chamfered; `plain` is what the others are. */
type Corner = Schemas['CornerCut']
const props = defineProps<{
  corners: Corner[]
  plain: string
  value: (path: string) => number | undefined
  save: (change: (corners: Corner[]) => Corner[]) => Promise<Refusal | null>
}>()
const CORNERS: Corner['corner'][] = ['top left', 'top right', 'bottom left', 'bottom right']
const workshop = useWorkshop()
const edits = useEdits()

function of(corner: Corner['corner']): Corner | undefined {
  return props.corners.find((c) => c.corner === corner)
}

function set(corner: Corner['corner'], kind: string): void {
  void edits.told(
    props.save((all) => {
      const others = all.filter((c) => c.corner !== corner)
      const size = all.find((c) => c.corner === corner)?.size ?? typed(5, workshop.unit)
      return kind === 'round' || kind === 'chamfer' ? [...others, { corner, kind, size }] : others
    }),
  )
}

/** What all four are, where they are alike. */
const alike = computed(() => {
  const [first] = props.corners
  const same = props.corners.every(({ kind, size, up }) => kind === first?.kind && size.text === first.size.text && size.unit === first.size.unit && !up)
  if (!props.corners.length) return { kind: props.plain }
  return same && props.corners.length === CORNERS.length ? first : undefined
})

function setAll(kind: string): void {
  void edits.told(props.save((all) => (kind === 'round' || kind === 'chamfer' ? CORNERS.map((corner) => ({ corner, kind, size: all[0]?.size ?? typed(5, workshop.unit) })) : [])))
}

function sizeAll(size: Size): Promise<Refusal | null> {
  return props.save((all) => all.map((one) => ({ ...one, size })))
}

function put(corner: Corner['corner'], change: { size?: Size; up?: Size }): Promise<Refusal | null> {
  return props.save((all) => all.map((c) => (c.corner === corner ? { ...c, ...change } : c)))
}
</script>

<template>
  <div class="corners">
    <div class="corner">
      <ChoiceField label="All four" :value="alike?.kind ?? null" :options="[plain, 'round', 'chamfer']" empty="each its own" :save="setAll" />
      <SizeField v-if="alike && 'size' in alike" label="Size of all four" :size="alike.size" :value="value('corners/top left')" :save="sizeAll" small hide-label />
    </div>
    <div v-for="corner in CORNERS" :key="corner" class="corner">
      <ChoiceField :label="`${corner} corner`" :value="of(corner)?.kind ?? plain" :options="[plain, 'round', 'chamfer']" :save="(kind) => set(corner, kind)" />
      <SizeField v-if="of(corner)" :label="`Size of the ${corner} corner`" :size="of(corner)!.size" :value="value(`corners/${corner}`)" :save="(size) => put(corner, { size })" small hide-label />
      <SizeField v-if="of(corner)?.kind === 'chamfer'" class="up" :label="`and up the ${corner.split(' ')[1]} side`" :size="of(corner)!.up ?? of(corner)!.size" :value="value(`corners/${corner}/up`)" :save="(up) => put(corner, { up })" small />
    </div>
  </div>
</template>

<style scoped>
.corners { display: grid; gap: 3px; margin: 4px 0; }
.corner { display: grid; justify-items: end; gap: 2px; }
.corner > .row-field { width: 100%; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Part, PartShown, Schemas, Shape, Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import { typed } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import BringOutline from './BringOutline.vue'
import FollowFields from './FollowFields.vue'
import KnotFields from './KnotFields.vue'

/** The outline that a part begins with: its shape, corners or points, and how far it is grown. */
const props = defineProps<{
  part: Part
  shown: PartShown | null
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
}>()

type Corner = Schemas['CornerCut']
const CORNERS: Corner['corner'][] = ['top left', 'top right', 'bottom left', 'bottom right']
const workshop = useWorkshop()
const edits = useEdits()
/** Only a part that was brought from a file is one; others become one by bringing it. */
const kinds = computed<Shape['kind'][]>(() => (props.part.shape.kind === 'brought' ? ['rectangle', 'ellipse', 'curve', 'brought'] : ['rectangle', 'ellipse', 'curve']))
/** A starter keeps the shapes of its parts, but for silhouettes, which are the maker's. */
const own = computed(() => !props.part.starter || props.part.shape.kind === 'curve' || props.part.shape.kind === 'brought')
const corners = computed(() => (props.part.shape.kind === 'rectangle' ? props.part.shape.corners : []))

function cornerOf(corner: Corner['corner']): Corner | undefined {
  return corners.value.find((c) => c.corner === corner)
}

/** Changes the corners, if by then the part still is a rectangle. */
function putCorners(change: (corners: Corner[]) => Corner[]): Promise<Refusal | null> {
  return props.putPart(({ shape }) => (shape.kind === 'rectangle' ? { shape: { ...shape, corners: change(shape.corners) } } : {}))
}

function setCorner(corner: Corner['corner'], kind: 'square' | Corner['kind']): void {
  void edits.told(
    putCorners((all) => {
      const others = all.filter((c) => c.corner !== corner)
      const size = all.find((c) => c.corner === corner)?.size ?? typed(5, workshop.unit)
      return kind === 'square' ? others : [...others, { corner, kind, size }]
    }),
  )
}

function saveCorner(corner: Corner['corner'], size: Size): Promise<Refusal | null> {
  return putCorners((all) => all.map((c) => (c.corner === corner ? { ...c, size } : c)))
}

function saveUp(corner: Corner['corner'], up: Size): Promise<Refusal | null> {
  return putCorners((all) => all.map((c) => (c.corner === corner ? { ...c, up } : c)))
}

function setKind(kind: Shape['kind']): void {
  if (kind !== 'brought' && kind !== props.part.shape.kind) void edits.change({ do: 'draw as', id: props.part.id, kind })
}

function putRim(change: Partial<Part['rim']>): Promise<Refusal | null> {
  return props.putPart(({ rim }) => ({ rim: { ...rim, ...change } }))
}

function value(path: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/${path}`]
}
</script>

<template>
  <ChoiceField v-if="!part.starter" label="Shape" :value="part.shape.kind" :options="kinds" :names="{ curve: 'curve through points', brought: 'from a file' }" :save="setKind" />
  <div v-if="part.shape.kind === 'rectangle'" class="corners">
    <div v-for="corner in CORNERS" :key="corner" class="corner">
      <ChoiceField :label="`${corner} corner`" :value="cornerOf(corner)?.kind ?? 'square'" :options="['square', 'round', 'chamfer']" :save="(kind) => setCorner(corner, kind)" />
      <SizeField v-if="cornerOf(corner)" :label="`Size of the ${corner} corner`" :size="cornerOf(corner)!.size" :value="value(`corners/${corner}`)" :save="(size) => saveCorner(corner, size)" small hide-label />
      <SizeField v-if="cornerOf(corner)?.kind === 'chamfer'" class="up" :label="`and up the ${corner.split(' ')[1]} side`" :size="cornerOf(corner)!.up ?? cornerOf(corner)!.size" :value="value(`corners/${corner}/up`)" :save="(up) => saveUp(corner, up)" small />
    </div>
  </div>
  <BringOutline v-if="own" :key="part.id" :part="part" />
  <KnotFields v-if="shown?.knots.length" :knots="shown.knots" :save="(knots) => edits.edit({ do: 'reshape curve', id: part.id, knots })" />
  <FollowFields v-if="part.shape.kind === 'brought'" :part="part" :put-part="putPart" />
  <SizeField label="Grown by (minus shrinks)" :size="part.rim.by" :value="value('rim')" :save="(by) => putRim({ by })" />
  <ChoiceField v-if="part.rim.by.text !== '0'" label="its corners stay" :value="part.rim.corners" :options="['sharp', 'round']" :save="(corners) => void edits.told(putRim({ corners }))" />
</template>

<style scoped>
.corners { display: grid; gap: 3px; margin: 4px 0; }
.corner { display: grid; justify-items: end; gap: 2px; }
.corner > .row-field { width: 100%; }
</style>

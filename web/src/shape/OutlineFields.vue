<script setup lang="ts">
import { computed } from 'vue'

import type { Part, PartShown, Schemas, Shape } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import CornerCuts from './CornerCuts.vue'
import BringOutline from './BringOutline.vue'
import FollowFields from './FollowFields.vue'
import ActButton from '../kit/ActButton.vue'
import KnotFields from './KnotFields.vue'
import { useMode } from './mode'

/** The outline that a part begins with: its shape, corners or points, and how far it is grown. */
const props = defineProps<{
  part: Part
  shown: PartShown | null
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
}>()

type Corner = Schemas['CornerCut']
const workshop = useWorkshop()
const edits = useEdits()
const mode = useMode()
/** Only a part that was brought from a file is one; others become one by bringing it. */
const kinds = computed<Shape['kind'][]>(() => (props.part.shape.kind === 'brought' ? ['rectangle', 'ellipse', 'curve', 'brought'] : ['rectangle', 'ellipse', 'curve']))
/** A starter keeps the shapes of its parts, but for silhouettes, which are the maker's. */
const own = computed(() => !props.part.starter || props.part.shape.kind === 'curve' || props.part.shape.kind === 'brought')

/** Changes the corners, if by then the part still is a rectangle. */
function putCorners(change: (corners: Corner[]) => Corner[]): Promise<Refusal | null> {
  return props.putPart(({ shape }) => (shape.kind === 'rectangle' ? { shape: { ...shape, corners: change(shape.corners) } } : {}))
}

function setKind(kind: Shape['kind']): void {
  if (kind !== 'brought' && kind !== props.part.shape.kind) void edits.change({ do: 'draw as', id: props.part.id, kind })
}

function putRim(change: Partial<Part['rim']>): Promise<Refusal | null> {
  return props.putPart(({ rim }) => ({ rim: { ...rim, ...change } }))
}

const cornersSay = computed(() => {
  const cut = props.part.shape.kind === 'rectangle' ? props.part.shape.corners : []
  const [first] = cut
  if (cut.length === 4 && cut.every(({ kind }) => kind === first?.kind)) return `all ${first?.kind}`
  return cut.length ? cut.map(({ corner, kind }) => `${corner} ${kind}`).join(', ') : 'square'
})

function value(path: string): number | undefined {
  return workshop.shown?.values[`parts/${props.part.id}/${path}`]
}
</script>

<template>
  <ChoiceField v-if="!part.starter" label="Shape" :value="part.shape.kind" :options="kinds" :names="{ curve: 'curve through points', brought: 'from a file' }" :save="setKind" />
  <FoldSection v-if="part.shape.kind === 'rectangle'" title="Its four corners" :says="cornersSay" name="four-corners" :folded="!part.shape.corners.length">
    <CornerCuts :corners="part.shape.corners" :value="value" plain="square" :save="putCorners" />
  </FoldSection>
  <BringOutline v-if="own" :key="part.id" :part="part" />
  <p v-if="own" class="in-line">
    <ActButton :pressed="mode.mode === 'draw the outline'" @click="mode.be('draw the outline')">Draw it by hand</ActButton>
    <template v-if="part.shape.kind === 'curve'">
      <ActButton :pressed="mode.mode === 'redraw a piece'" @click="mode.be('redraw a piece')">Redraw a piece</ActButton>
      <ActButton :pressed="mode.mode === 'make straight'" @click="mode.be('make straight')">Straight from here to here</ActButton>
    </template>
  </p>
  <KnotFields v-if="shown?.knots.length" :knots="shown.knots" :place="(index, way, to) => edits.edit({ do: 'place knot', part: part.id, id: '', index, way, to })" :save="(knots) => edits.edit({ do: 'reshape curve', id: part.id, knots })" />
  <FollowFields v-if="part.shape.kind === 'brought'" :part="part" :put-part="putPart" />
  <SizeField label="Grown by (minus shrinks)" :size="part.rim.by" :value="value('rim')" :save="(by) => putRim({ by })" />
  <ChoiceField v-if="part.rim.by.text !== '0'" label="its corners stay" :value="part.rim.corners" :options="['sharp', 'round']" :save="(corners) => void edits.told(putRim({ corners }))" />
</template>

<script setup lang="ts">
import { computed, ref } from 'vue'

import type { CutOut, Part } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import PlainField from '../kit/PlainField.vue'
import CutOutFields from './CutOutFields.vue'
import { freeId } from '../state/fresh'
import OutlineFields from './OutlineFields.vue'
import PartFacts from './PartFacts.vue'
import BendsOnIt from './bent/BendsOnIt.vue'
import BorderFields from './BorderFields.vue'
import References from './References.vue'
import TakenCorners from './TakenCorners.vue'
import ManyShapes from './ManyShapes.vue'
import ShapesOnIt from './ShapesOnIt.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import StarterSettings from '../starters/StarterSettings.vue'
import NamedSizes from './NamedSizes.vue'
import ActButton from '../kit/ActButton.vue'
import TextInput from '../kit/TextInput.vue'
import FoldSection from '../kit/FoldSection.vue'

/** What is set of a part besides its drawing: name, stock, count, outline, cut-outs, texts. */
const props = defineProps<{
  part: Part
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
  putCut: (id: string, change: (cut: CutOut) => Partial<CutOut>) => Promise<Refusal | null>
}>()

const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const factor = ref('2')
const stocks = computed(() => workshop.document?.stocks ?? [])
const stockNames = computed(() => Object.fromEntries(stocks.value.map((stock) => [stock.id, stock.name])))

/** For values that are read off a field now, not when the edit's turn comes. */
function set(change: Partial<Part>): void {
  void edits.told(props.putPart(() => change))
}

async function duplicate(): Promise<void> {
  if (!workshop.document) return
  const name = `${props.part.name} copy`.slice(0, 80)
  const copy = { ...props.part, starter: '', id: freeId('part', workshop.document.parts), name }
  if (await edits.change({ do: 'put part', part: copy })) picked.pick({ partId: copy.id })
}

function scale(): void {
  const by = Number(factor.value.replace(',', '.'))
  if (by > 0.001 && by < 1000) void edits.change({ do: 'scale part', id: props.part.id, factor: by })
  else workshop.say(`“${factor.value}” is not a factor; type a number such as 1.5.`)
}
</script>

<template>
  <ManyShapes v-if="picked.cutoutIds.length" />
  <CutOutFields v-if="picked.cutout && picked.cutoutIds.length === 1" :key="picked.cutout.id" :cut="picked.cutout" :part="part" :put-cut="putCut" />
  <StarterSettings v-if="part.starter" :id="part.starter" :key="part.starter" />
  <h2 class="over">{{ part.name }}</h2>
  <div class="stack">
    <PlainField :key="`${part.id}name`" label="Name" :value="part.name" :save="(name) => set({ name })" />
    <ChoiceField v-if="!part.starter" label="Stock" :value="part.stock" :options="stocks.map((stock) => stock.id)" :names="stockNames" :save="(stock) => set({ stock })" />
    <PlainField v-if="!part.starter" :key="`${part.id}count`" label="How many" :value="part.count" :most="500" :save="(count) => set({ count: Number(count) })" />
    <ChoiceField v-if="!part.starter" label="Drawn from its" :value="part.face" :options="['outside', 'inside']" :save="(face) => set({ face })" />
  </div>
  <ShapesOnIt :part="part" />
  <FoldSection title="Outline" name="outline"><OutlineFields :key="`${part.id}outline`" :part="part" :shown="picked.partShown" :put-part="putPart" /></FoldSection>
  <FoldSection title="Bends and flanges" name="bends" :folded="!part.bends.length"><BendsOnIt :key="`${part.id}bends`" :part="part" /></FoldSection>
  <FoldSection title="Corners of the outline" name="corners" folded><TakenCorners :part="part" :put-part="putPart" /></FoldSection>
  <FoldSection title="Border and smallest gap" name="border" folded><BorderFields :part="part" :put-part="putPart" /></FoldSection>
  <FoldSection title="To design round" name="references" folded><References :key="part.id" :part="part" /></FoldSection>
  <FoldSection title="Named sizes of the project" name="names"><NamedSizes /></FoldSection>
  <FoldSection title="What follows, and the whole part" name="whole">
    <PartFacts v-if="picked.partShown" :shown="picked.partShown" />
    <p class="in-line actions">
      <ActButton @click="duplicate">Duplicate</ActButton>
      <template v-if="!part.starter">
        <ActButton @click="edits.change({ do: 'mirror part', id: part.id })">Mirror</ActButton>
        <ActButton @click="edits.change({ do: 'remove part', id: part.id })">Delete part</ActButton>
      </template>
    </p>
    <form v-if="!part.starter" class="in-line scale" @submit.prevent="scale">
      <ActButton submits>Scale by</ActButton>
      <TextInput v-model="factor" label="Factor to scale by" :most="12" />
    </form>
  </FoldSection>
</template>

<style scoped>
.over { overflow-wrap: anywhere; margin-bottom: 6px; }
.actions { margin-top: 6px; gap: 14px; }
.scale { margin-top: 4px; gap: 8px; }
.scale .text-input { width: 60px; }
</style>

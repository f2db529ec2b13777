<script setup lang="ts">
import { ref } from 'vue'

import type { CutOut, Part } from '../api/client'
import ChoiceField from '../fields/ChoiceField.vue'
import PlainField from '../fields/PlainField.vue'
import CutOutFields from '../parts/CutOutFields.vue'
import { copyOf } from '../parts/fresh'
import OutlineFields from '../parts/OutlineFields.vue'
import PartFacts from '../parts/PartFacts.vue'
import PartMarks from '../parts/PartMarks.vue'
import { useWorkshop, type Refusal } from '../stores/workshop'
import StarterSettings from '../starters/StarterSettings.vue'
import NamedSizes from './NamedSizes.vue'

/** What is set of a part besides its drawing: name, stock, count, outline, cut-outs, texts. */
const props = defineProps<{
  part: Part
  putPart: (change: (part: Part) => Partial<Part>) => Promise<Refusal | null>
  putCut: (id: string, change: (cut: CutOut) => Partial<CutOut>) => Promise<Refusal | null>
}>()

const workshop = useWorkshop()
const factor = ref('2')

/** For values that are read off a field now, not when the edit's turn comes. */
function set(change: Partial<Part>): void {
  void workshop.told(props.putPart(() => change))
}

async function duplicate(): Promise<void> {
  if (!workshop.document) return
  const copy = copyOf(props.part, workshop.document)
  if (await workshop.change({ do: 'put part', part: copy })) workshop.partId = copy.id
}

function scale(): void {
  const by = Number(factor.value.replace(',', '.'))
  if (by > 0.001 && by < 1000) void workshop.change({ do: 'scale part', id: props.part.id, factor: by })
  else workshop.trouble = `“${factor.value}” is not a factor; type a number such as 1.5.`
}
</script>

<template>
  <StarterSettings v-if="part.starter" :id="part.starter" :key="part.starter" />
  <h2 class="over">{{ part.name }}</h2>
  <div class="stack">
    <PlainField :key="`${part.id}name`" label="Name" :value="part.name" :save="(name) => set({ name })" />
    <div v-if="!part.starter" class="row-field">
      <label for="part-stock">Stock</label>
      <select id="part-stock" class="text-input" :value="part.stock" @change="set({ stock: ($event.target as HTMLSelectElement).value })">
        <option v-for="stock in workshop.document?.stocks" :key="stock.id" :value="stock.id">{{ stock.name }}</option>
      </select>
    </div>
    <PlainField v-if="!part.starter" :key="`${part.id}count`" label="How many" :value="part.count" :most="500" :save="(count) => set({ count: Number(count) })" />
    <ChoiceField v-if="!part.starter" label="Drawn from its" :value="part.face" :options="['outside', 'inside']" :save="(face) => set({ face })" />
  </div>
  <PartFacts v-if="workshop.partShown" :shown="workshop.partShown" />
  <p class="in-line actions">
    <button type="button" class="plain-button" @click="duplicate">Duplicate</button>
    <template v-if="!part.starter">
      <button type="button" class="plain-button" @click="workshop.change({ do: 'mirror part', id: part.id })">Mirror</button>
      <button type="button" class="plain-button" @click="workshop.change({ do: 'remove part', id: part.id })">Delete part</button>
    </template>
  </p>
  <form v-if="!part.starter" class="in-line scale" @submit.prevent="scale">
    <button type="submit" class="plain-button">Scale by</button>
    <input v-model="factor" class="text-input" aria-label="Factor to scale by" size="4" @keydown.stop />
  </form>

  <OutlineFields :key="`${part.id}outline`" :part="part" :shown="workshop.partShown" :put-part="putPart" />
  <CutOutFields :part="part" :put-part="putPart" :put-cut="putCut" />
  <PartMarks :part="part" :put-part="putPart" />
  <NamedSizes />
</template>

<style scoped>
.over { overflow-wrap: anywhere; margin-bottom: 6px; }
.actions { margin-top: 6px; gap: 14px; }
.scale { margin-top: 4px; gap: 8px; }
.scale input { width: 60px; }
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'

import { sentence, type Part, type Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import GoLink from '../kit/GoLink.vue'
import PickFile from '../kit/PickFile.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { useMode } from './mode'
import { keepPicture } from './pictures'
import { useShapes } from './shapes'
import { useStandards } from './standards'

/** What is laid under the drawing to design round it: standard things, drawings, pictures, other parts. Never cut. */
const props = defineProps<{ part: Part }>()
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const shapes = useShapes()
const mode = useMode()
const standards = useStandards()
const group = ref('')

const groups = computed(() => [...new Set(standards.value.map((s) => s.group))])
const things = computed(() => standards.value.filter((s) => s.group === (group.value || groups.value[0])))
const others = computed(() => workshop.document?.parts.filter((p) => p.id !== props.part.id) ?? [])
const laid = computed(() => props.part.cutouts.filter((c) => c.does === 'reference'))
const chosen = computed(() => laid.value.find((c) => c.id === picked.cutoutId && picked.cutoutIds.length === 1))

async function lay(kind: 'standard' | 'part' | 'picture', of: string): Promise<void> {
  const id = shapes.fresh(1, 'reference')[0] ?? 'reference'
  if (await edits.change({ do: 'begin cut-out', part: props.part.id, id, kind, of, reference: true })) picked.pick({ cutoutId: id })
}

async function bringPicture(file: File): Promise<void> {
  try {
    const kept = await keepPicture(file)
    await lay('picture', kept.key)
    const id = picked.cutoutId ?? ''
    // As wide as the part to begin with, in its own proportion; a known length gives it its scale.
    const width = picked.partShown?.width ?? 100
    await edits.told(edits.editPart(props.part.id, ({ cutouts }) => ({
      cutouts: cutouts.map((c) => (c.id === id && c.hole.kind === 'picture' ? { ...c, hole: { ...c.hole, width: typed(width, workshop.unit), height: typed((width * kept.height) / kept.width, workshop.unit) } } : c)),
    })))
  } catch (error) {
    workshop.say(sentence(error))
  }
}

const larger = ref<Size>(typed(0.2, workshop.unit))

function enlarge(by: Size): Promise<null> {
  larger.value = by
  return Promise.resolve(null)
}

function hide(id: string, hidden: boolean): void {
  void edits.told(edits.editPart(props.part.id, ({ cutouts }) => ({ cutouts: cutouts.map((c) => (c.id === id ? { ...c, hidden } : c)) })))
}

function called(id: string): string {
  return picked.partShown?.cutouts.find((c) => c.id === id)?.called ?? id
}
</script>

<template>
  <ChoiceField label="Of the library" :value="group || (groups[0] ?? '')" :options="groups" :save="(now) => { group = now }" />
  <ChoiceField label="lay under it a" :value="null" :options="things.map((t) => t.name)" empty="choose" :save="(name) => void lay('standard', name)" />
  <ChoiceField v-if="others.length" label="or the part" :value="null" :options="others.map((p) => p.id)" :names="Object.fromEntries(others.map((p) => [p.id, p.name]))" empty="choose" :save="(id) => void lay('part', id)" />
  <p class="in-line">
    <GoLink :to="`/projects/${workshop.shown?.slug}/way-in`">or a drawing</GoLink>
    <PickFile of="what it is designed round" accept="image/png,image/jpeg" :take="bringPicture">or a picture</PickFile>
  </p>
  <ul v-if="laid.length" class="laid">
    <li v-for="one in laid" :key="one.id">
      <ActButton :pressed="shapes.chosen.has(one.id)" @click="shapes.choose(one.id)">{{ called(one.id) }}</ActButton>
      <TickField :value="!one.hidden" :label="`${called(one.id)} is shown`" :save="(on) => hide(one.id, !on)">shown</TickField>
    </li>
  </ul>
  <template v-if="chosen">
    <template v-if="chosen.hole.kind !== 'picture'">
      <SizeField label="Its holes larger by" :size="larger" :save="enlarge" />
      <p><ActButton look="ink" @click="edits.change({ do: 'take holes', part: part.id, id: chosen!.id, larger })">Cut its holes into the part</ActButton></p>
    </template>
    <p v-else><ActButton :pressed="mode.mode === 'set to scale'" @click="mode.be('set to scale')">Set to scale by a known length</ActButton></p>
  </template>
</template>

<style scoped>
.laid { list-style: none; margin: 4px 0; padding: 0; display: grid; gap: 2px; }
.laid li { display: flex; justify-content: space-between; gap: 8px; }
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { client, type Nine, type Schemas, type Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import TickField from '../kit/TickField.vue'
import { typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import { NINE } from './nine'
import { useShapes } from './shapes'

/** What is done with all shapes that are chosen: aligned, spaced, moved, turned, copied, grouped, joined. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const shapes = useShapes()

const about = ref<Nine>('middle')
const each = ref(false)
const onPart = ref(false)
const equal = ref<'gaps' | 'steps'>('gaps')
const none = computed(() => typed(0, workshop.unit))
const part = computed(() => picked.partId ?? '')
const names = computed(() => picked.partShown?.cutouts.filter((c) => shapes.chosen.has(c.id)).map((c) => c.called) ?? [])
const grouped = computed(() => picked.part?.cutouts.some((c) => shapes.chosen.has(c.id) && c.groups.length) ?? false)
const last = computed(() => picked.partShown?.cutouts.find((c) => c.id === picked.cutoutId)?.called ?? '')

type Line = Schemas['AlignShapes']['line']
const LINES: { line: Line; name: string }[] = [
  { line: 'left', name: 'left sides' },
  { line: 'middle across', name: 'middles across' },
  { line: 'right', name: 'right sides' },
  { line: 'bottom', name: 'bottoms' },
  { line: 'middle up', name: 'middles up' },
  { line: 'top', name: 'tops' },
]

function align(line: Line): void {
  void edits.change({ do: 'align shapes', part: part.value, ids: shapes.ids, line, on: onPart.value ? 'part' : 'last' })
}

function space(across: boolean, size: Size | null = null): Promise<Refusal | null> {
  return edits.edit({ do: 'space shapes', part: part.value, ids: shapes.ids, across, equal: equal.value, on: onPart.value && !size ? 'part' : 'outer two', size })
}

function turn(by: Size): Promise<Refusal | null> {
  return edits.edit({ do: 'turn shapes', part: part.value, ids: shapes.ids, by, about: about.value, each: each.value })
}

/** Straight sides of the outline, chamfers and turned edges included; asked for when they are wanted. */
const sides = ref<Schemas['StraightShown'][]>([])
watch(() => [picked.partId, picked.partShown], () => { sides.value = [] })

async function askForSides(): Promise<void> {
  const path = { slug: workshop.shown?.slug ?? '', part_id: part.value }
  sides.value = (await client.GET('/api/projects/{slug}/parts/{part_id}/sides', { params: { path } })).data ?? []
}
const sideNames = computed(() => Object.fromEntries(sides.value.map(({ side, angle }, index) => [index, `${side.shape ? `${side.shape} ` : ''}${side.side}, ${Number(angle.toFixed(2))}°`])))

function along(index: number): void {
  const side = sides.value[index]?.side
  if (side) void edits.change({ do: 'turn along', part: part.value, ids: shapes.ids, side })
}

async function combine(how: Schemas['CombineShapes']['how']): Promise<void> {
  const first = shapes.ids[0]
  if (await edits.change({ do: 'combine shapes', part: part.value, ids: shapes.ids, how })) picked.pick({ cutoutId: first ?? null })
}
</script>

<template>
  <section class="many" aria-label="All that is chosen">
    <template v-if="shapes.ids.length > 1">
      <h2>{{ shapes.ids.length }} shapes chosen</h2>
      <p class="names cut-off" :title="names.join(', ')">{{ names.join(', ') }}</p>
    </template>
    <p class="in-line">
      <ActButton title="Key: Ctrl+C" @click="shapes.copy">Copy</ActButton>
      <ActButton title="Key: Ctrl+X" @click="shapes.cut">Cut</ActButton>
      <ActButton @click="shapes.duplicate(typed(5, workshop.unit), typed(5, workshop.unit))">Duplicate</ActButton>
      <ActButton title="Key: Delete" @click="shapes.remove">Delete</ActButton>
      <ActButton v-if="shapes.ids.length > 1" title="Key: g" @click="shapes.group">Keep as a group</ActButton>
      <ActButton v-if="grouped" title="Key: u" @click="shapes.ungroup">Take the group apart</ActButton>
    </p>
    <FoldSection title="Align and space" name="align" folded>
      <TickField :value="onPart" :save="(on) => { onPart = on }">On the part, not on {{ last || 'the one chosen last' }}</TickField>
      <p class="in-line">Align
        <ActButton v-for="{ line, name } in LINES" :key="line" @click="align(line)">{{ name }}</ActButton>
      </p>
      <ChoiceField label="Space by equal" :value="equal" :options="['gaps', 'steps']" :save="(now) => { equal = now }" />
      <p class="in-line">
        <ActButton @click="edits.told(space(true))">Space across</ActButton>
        <ActButton @click="edits.told(space(false))">Space up</ActButton>
      </p>
      <SizeField :label="`or by ${equal} across of`" :size="none" :save="(size) => space(true, size)" />
      <SizeField :label="`or by ${equal} up of`" :size="none" :save="(size) => space(false, size)" />
    </FoldSection>
    <FoldSection title="Move and turn" name="turn" folded>
      <SizeField label="Move across by" :size="none" :save="(x) => shapes.moveBy(x, none)" />
      <SizeField label="Move up by" :size="none" :save="(y) => shapes.moveBy(none, y)" />
      <ChoiceField label="Turn about the" :value="about" :options="NINE" :save="(now) => { about = now }" />
      <TickField v-if="shapes.ids.length > 1" :value="each" :save="(now) => { each = now }">each about its own</TickField>
      <p v-if="!sides.length"><ActButton @click="askForSides">Turn along a side of the part</ActButton></p>
      <ChoiceField v-else label="Turn to lie along" :value="null" :options="sides.map((_, index) => index)" :names="sideNames" empty="a side" :save="along" />
      <SizeField label="Turn by (degrees)" :size="none" bare :save="turn" />
    </FoldSection>
    <FoldSection v-if="shapes.ids.length > 1" title="Make one shape of them" name="combine" folded>
      <p class="in-line">
        <ActButton @click="combine('add')">All together</ActButton>
        <ActButton @click="combine('take away')">The first less the others</ActButton>
        <ActButton @click="combine('in common')">What all have in common</ActButton>
      </p>
    </FoldSection>
  </section>
</template>

<style scoped>
.many { margin-bottom: 8px; }
.names { color: var(--soft-ink); font-size: 12px; }
</style>

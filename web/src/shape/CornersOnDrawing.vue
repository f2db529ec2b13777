<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { client, sentence, type Part, type Schemas } from '../api/client'
import type { View } from '../drawing/view'
import { typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The corners of a part's outline, to be taken off where they are pressed. */
defineProps<{ view: View }>()
const picked = useChoice()
const edits = useEdits()
const workshop = useWorkshop()

type Corner = Schemas['CornerShown']
type Taken = Part['corners'][number]
const corners = ref<Corner[]>([])

watch(
  () => [picked.partId, picked.partShown],
  async () => {
    const path = { slug: workshop.shown?.slug ?? '', part_id: picked.partId ?? '' }
    const { data, error } = await client.GET('/api/projects/{slug}/parts/{part_id}/corners', { params: { path } })
    if (data) corners.value = data
    else workshop.say(sentence(error))
  },
  { immediate: true },
)

function is(taken: Taken, corner: Corner): boolean {
  return same(taken.before, corner.before) && same(taken.after, corner.after) && taken.number === corner.number
}

function same(a: Schemas['MetSide'], b: Schemas['MetSide']): boolean {
  return a.shape === b.shape && a.side === b.side
}

const taken = computed(() => picked.part?.corners ?? [])

function toggle(event: Event, corner: Corner): void {
  event.stopPropagation()
  const { before, after, number } = corner
  const size = taken.value.at(-1)?.size ?? typed(3, workshop.unit)
  const kind = taken.value.at(-1)?.kind ?? 'round'
  void edits.told(edits.editPart(picked.partId ?? '', ({ corners: all }) => ({
    corners: all.some((one) => is(one, corner)) ? all.filter((one) => !is(one, corner)) : [...all, { before, after, number, kind, size, up: null }],
  })))
}
</script>

<template>
  <circle
    v-for="(corner, index) in corners"
    :key="index"
    class="corner"
    :class="{ taken: taken.some((one) => is(one, corner)) }"
    :cx="view.toScreen(corner.x, 0).x"
    :cy="view.toScreen(0, corner.y).y"
    r="6"
    tabindex="0"
    role="button"
    :aria-label="`Corner ${index + 1}, at ${corner.x.toFixed(1)} across and ${corner.y.toFixed(1)} up`"
    :aria-pressed="taken.some((one) => is(one, corner))"
    @pointerdown="toggle($event, corner)"
    @keydown.enter.prevent="toggle($event, corner)"
    @keydown.space.prevent="toggle($event, corner)"
  />
</template>

<style scoped>
.corner { fill: var(--ground); stroke: var(--accent); stroke-width: 1.6; cursor: pointer; outline: none; }
.corner.taken { fill: var(--accent); }
.corner:focus-visible { stroke-width: 4; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { CutOut, CutOutShown } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import type { Refusal } from '../state/refusal'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { NINE } from './nine'

/** Where a shape stands: by which point of its own, from what, how far. It stays where it is when that is chosen anew. */
const props = defineProps<{
  cut: CutOut
  part: string
  others: CutOutShown[]
  value: (field: string) => number | undefined
  save: (change: Partial<CutOut>) => Promise<Refusal | null>
}>()
const edits = useEdits()

const workshop = useWorkshop()
const bends = computed(() => workshop.document?.parts.find(({ id }) => id === props.part)?.bends ?? [])
const flanges = computed(() => ['', ...bends.value.filter(({ kind }) => kind === 'flange').map(({ id }) => id)])
const flangeNames = computed<Record<string, string>>(() => ({ '': 'the part', ...Object.fromEntries(workshop.shown?.parts.find(({ id }) => id === props.part)?.bends.map((b) => [b.id, b.called]) ?? []) }))

const things = computed(() => ['', ...props.others.map((o) => o.id)])
const names = computed<Record<string, string>>(() => ({ '': 'the part', ...Object.fromEntries(props.others.map((o) => [o.id, o.called])) }))

function from(change: Partial<Pick<CutOut, 'point' | 'origin' | 'on' | 'x_of' | 'y_of'>>): void {
  const { point, origin, on, x_of, y_of } = props.cut
  void edits.change({ do: 'place from', part: props.part, id: props.cut.id, point, origin, on, x_of, y_of, ...change })
}

/** What its distances begin at, in words. */
const standing = computed(() => {
  const { point, origin, on, x_of, y_of } = props.cut
  const whose = x_of === y_of && !x_of ? ` of ${on ? flangeNames.value[on] : 'the part'}` : `, across of ${names.value[x_of]}, up of ${names.value[y_of]}`
  return `Its ${point} from the ${origin}${whose}`
})

/** Which way a positive distance runs. */
const ways = computed(() => {
  const { origin, x_of, y_of } = props.cut
  const toLeft = x_of ? /left/.test(origin) : /right/.test(origin)
  const down = y_of ? /bottom/.test(origin) : /top/.test(origin)
  return { across: toLeft ? 'to the left' : 'to the right', up: down ? 'down' : 'up' }
})
</script>

<template>
  <SizeField label="Distance across" :size="cut.x" :value="value('x')" :save="(x) => save({ x })" />
  <SizeField label="Distance up" :size="cut.y" :value="value('y')" :save="(y) => save({ y })" />
  <p class="ways">{{ standing }}; positive runs {{ ways.across }}, and {{ ways.up }}.</p>
  <FoldSection title="What it is measured from" name="placed-from" folded>
    <ChoiceField label="Placed by its" :value="cut.point" :options="NINE" :save="(point) => from({ point })" />
    <ChoiceField label="Placed from" :value="cut.origin" :options="NINE" :save="(origin) => from({ origin })" />
    <ChoiceField v-if="flanges.length > 1" label="It is on" :value="cut.on" :options="flanges" :names="flangeNames" :save="(on) => from({ on })" />
    <ChoiceField v-if="others.length" label="across, of" :value="cut.x_of" :options="things" :names="names" :save="(x_of) => from({ x_of })" />
    <ChoiceField v-if="others.length" label="up, of" :value="cut.y_of" :options="things" :names="names" :save="(y_of) => from({ y_of })" />
  </FoldSection>
</template>

<style scoped>
.ways { color: var(--soft-ink); font-size: 11.5px; }
</style>

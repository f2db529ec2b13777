<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'

import type { Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SizeField from '../kit/SizeField.vue'
import SpanSlider from '../kit/SpanSlider.vue'
import TickField from '../kit/TickField.vue'
import { plain } from '../kit/units'
import { refusal, type Refusal } from '../state/refusal'
import type { Look, Told } from './look'
import HeldInIt from './HeldInIt.vue'
import OneByOne from './OneByOne.vue'
import ToldOfIt from './ToldOfIt.vue'

/** What is wrong with the lines, how it is mended, and what was left out. */
const props = defineProps<{ look: Look; pointed: string }>()
const emit = defineEmits<{ point: [code: string] }>()
const shown = computed(() => props.look.shown.value)
const mend = computed(() => shown.value?.mend ?? null)
const join = computed(() => props.look.choices.value.join ?? 0.01)

/** The tolerance runs from 0.001 to 5 mm, each tenth of the way as much as the one before in proportion. */
const share = ref(shareOf(join.value))
const dragged = shallowRef<{ join: number; closed: number; loose: number } | null>(null)
const settle = useDebounceFn((now: number) => props.look.told({ join: joinOf(now) }), 250)
watch(share, async (now) => {
  if (Math.abs(now - shareOf(join.value)) <= 0.005) return
  void settle(now)
  const counted = await props.look.closedBy(joinOf(now))
  if (counted && share.value === now && Math.abs(now - shareOf(join.value)) > 0.005) dragged.value = { join: joinOf(now), ...counted }
})
watch(join, (now) => {
  dragged.value = null
  if (Math.abs(share.value - shareOf(now)) > 0.005) share.value = shareOf(now)
})

function shareOf(mm: number): number {
  return Math.log(mm / 0.001) / Math.log(5000)
}

function joinOf(share: number): number {
  return Number((0.001 * 5000 ** share).toPrecision(2))
}

async function save(size: Size): Promise<Refusal | null> {
  const typed = Number(size.text.replace(',', '.'))
  if (!(typed >= 0.001 && typed <= 5)) return refusal(`“${size.text}” is not between 0.001 and 5 mm.`)
  return props.look.choose({ join: typed })
}

const count = (n: number, one: string, many: string): string => (n === 1 ? `1 ${one}` : `${n} ${many}`)
const joinable = computed(() => (mend.value?.gaps ?? []).map((gap) => ({ ...gap, says: `a gap of ${plain(gap.width, 'mm')} mm` })))
const curved = computed(() => (mend.value?.curves ?? []).map((one) => ({ ...one, says: `${one.chords} chords of an outline that are ${count(one.arcs, 'arc', 'arcs')}` })))
/** What has fields of its own is told beside them. */
const OWN = ['joined', 'doubled', 'arcs', 'note']
const list = (weight: Told['weight']) => computed(() => (shown.value?.told ?? []).filter((one) => one.weight === weight && !OWN.includes(one.code)))
const wrong = list('wrong')
const mended = list('mended')
const notes = computed(() => (shown.value?.told ?? []).filter((one) => one.weight === 'note'))
const CROSSING = ['rooms', 'whole'] as const
const CROSSED = { rooms: 'room by room', whole: 'as one whole' }

const LETTERING = ['left out', 'single line', 'plain', 'stencil'] as const
const LETTERED = { 'left out': 'left out', 'single line': 'set in strokes', plain: 'set in plain', stencil: 'set in stencil' }
</script>

<template>
  <div v-if="shown && mend" class="stack">
    <SizeField label="Ends join within" :size="{ text: plain(join, 'mm'), unit: 'mm' }" bare :save="save" />
    <SpanSlider v-model="share" label="Ends join within, 0.001 to 5 mm" />
    <p v-if="dragged" role="status">Within {{ plain(dragged.join, 'mm') }} mm: <strong>{{ count(dragged.closed, 'closed outline', 'closed outlines') }}</strong> and {{ count(dragged.loose, 'loose end', 'loose ends') }}</p>
    <p v-else role="status"><strong>{{ count(shown.parts.reduce((n, p) => n + p.count, 0), 'part', 'parts') }}</strong> {{ mend.open ? `and ${count(mend.open, 'open line', 'open lines')}` : 'and no open line' }}</p>
    <ToldOfIt v-if="wrong.length" class="wrong" :told="wrong" :pointed="pointed" @point="(code) => emit('point', code)" />
    <ChoiceField v-if="mend.crossings || mend.crossed_path || wrong.some((one) => one.code === 'overlap') || look.choices.value.crossing === 'whole'" label="Where lines cross" :value="look.choices.value.crossing ?? 'rooms'" :options="CROSSING" :names="CROSSED" :save="(crossing) => look.told({ crossing })" />
    <OneByOne v-if="joinable.length" :says="`${count(mend.joined, 'gap was', 'gaps were')} joined`" :places="joinable" @turn="(place) => look.turn('apart', place)" @all="(taken) => look.told({ apart: taken ? [] : mend!.gaps.map(({ x, y }) => ({ x, y })) })" />
    <TickField v-if="mend.doubled || look.choices.value.once === false" :value="look.choices.value.once ?? true" :save="(once) => look.told({ once })">
      {{ mend.doubled ? `${count(mend.doubled, 'line is', 'lines are')} drawn twice, wholly or in part; each stretch is taken once` : 'What is drawn twice is taken once' }}
    </TickField>
    <ToldOfIt v-if="mended.length" :told="mended" :pointed="pointed" @point="(code) => emit('point', code)" />
    <TickField :value="look.choices.value.arcs ?? true" :save="(arcs) => look.told({ arcs })">Chords that stood for arcs become arcs</TickField>
    <OneByOne v-if="curved.length" :says="`${mend.chords} chords are ${count(mend.arcs, 'arc', 'arcs')} again, within 0.01 mm`" :places="curved" @turn="(place) => look.turn('polygons', place)" @all="(taken) => look.told({ polygons: taken ? [] : mend!.curves.map(({ x, y }) => ({ x, y })) })" />
    <p v-if="curved.length" class="explain">Four chords or more in a row are an arc where their corners lie on it and each turns on by at most 40 degrees; so hexagons and octagons stay as they are.</p>
    <template v-if="shown.texts.length">
      <p>Live text: {{ shown.texts.slice(0, 3).map((t) => `“${t.slice(0, 24)}”`).join(', ') }}{{ shown.texts.length > 3 ? ` and ${shown.texts.length - 3} more` : '' }}</p>
      <ChoiceField label="Live text is" :value="look.choices.value.lettering ?? 'left out'" :options="LETTERING" :names="LETTERED" :save="(font) => look.told({ lettering: font === 'left out' ? null : font })" />
    </template>
    <ToldOfIt v-if="notes.length" class="explain" :told="notes" :pointed="pointed" @point="(code) => emit('point', code)" />
    <FoldSection v-if="shown.held.length" title="What the file holds" folded><HeldInIt :held="shown.held" /></FoldSection>
  </div>
</template>

<style scoped>
p { margin: 2px 0; }
.wrong { color: var(--wrong); }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

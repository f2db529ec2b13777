<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import PlainField from '../kit/PlainField.vue'
import SpanSlider from '../kit/SpanSlider.vue'
import WayField from '../kit/WayField.vue'
import { plain } from '../kit/units'
import { counted, says, type Body } from './bodies'
import type { Look } from './look'

/** What becomes of a mesh: its plates are laid flat, or it is cut at one height or several. */
const props = defineProps<{ look: Look; bodies: Body[]; chosen: number | null; face: [number, number, number] | null }>()
const emit = defineEmits<{ choose: [index: number | null] }>()
const cut = computed(() => props.look.choices.value.cut ?? null)
const at = computed(() => props.look.shown.value?.cut ?? null)

const WAYS = ['flat', 'cut'] as const
const NAMES = { flat: 'lay its plates flat', cut: 'cut it at a height' }
const square = computed(() => (cut.value?.face ? 'face' : (cut.value?.axis ?? 'z')))
const SQUARES = computed(() => ['x', 'y', 'z', ...(props.face || cut.value?.face ? ['face'] : [])])

function squareTo(way: string): void {
  void props.look.told({ cut: way === 'face' ? { axis: 'z', face: props.face ?? cut.value?.face ?? null, heights: [] } : { axis: way as 'x' | 'y' | 'z', heights: [] } })
}

function putHeights(heights: number[]): void {
  if (cut.value) void props.look.told({ cut: { ...cut.value, heights } })
}

/** The last height as a share of the way up, dragged; the others stay. */
const share = ref(0.5)
const last = computed(() => at.value?.heights.at(-1) ?? 0)
watch(at, (now) => { if (now && now.high > now.low) share.value = (last.value - now.low) / (now.high - now.low) })
watch(share, (next) => {
  const now = at.value
  if (!now || !cut.value) return
  const height = Number((now.low + next * (now.high - now.low)).toPrecision(4))
  if (Math.abs(height - last.value) > 0.005 * (now.high - now.low)) putHeights([...now.heights.slice(0, -1), height])
})

function typed(text: string): void {
  const heights = text.split(/[;\s]+|,(?!\d)/).filter(Boolean).map((one) => Number(one.replace(',', '.')))
  if (heights.length && heights.every(Number.isFinite)) putHeights(heights)
  else props.look.say(`“${text}” is no height, such as 2.5, nor several, such as 2.5; 10; 20.`)
}

const heights = computed(() => (at.value?.heights ?? []).map((mm) => plain(mm, 'mm')).join('; '))
</script>

<template>
  <h2>The mesh</h2>
  <div class="stack">
    <FoldSection v-if="bodies.length" :title="counted(bodies)" name="way-in-bodies">
      <ul>
        <li v-for="(body, index) in bodies" :key="index">
          <ActButton look="bare" class="one" :pressed="index === chosen" @click="emit('choose', index === chosen ? null : index)"><strong>{{ body.name }}</strong><span>{{ says(body) }}</span></ActButton>
        </li>
      </ul>
    </FoldSection>
    <WayField label="What becomes of it" :value="cut ? 'cut' : 'flat'" :options="WAYS" :names="NAMES" :save="(way) => look.told({ cut: way === 'cut' ? { axis: 'z', heights: [] } : null })" />
    <template v-if="cut">
      <ChoiceField label="Square to" :value="square" :options="SQUARES" :names="{ face: 'the picked face' }" :save="squareTo" />
      <p v-if="!face" class="explain">Or press a face in space, and cut off that.</p>
      <template v-if="at">
        <PlainField label="At heights, in mm" :value="heights" :save="typed" />
        <SpanSlider v-model="share" label="The last height, from below to above" />
        <p class="explain">The bodies reach from {{ plain(at.low, 'mm') }} to {{ plain(at.high, 'mm') }} mm. <ActButton @click="putHeights([...at.heights, last])">Cut at one more height</ActButton></p>
      </template>
    </template>
  </div>
</template>

<style scoped>
.explain { margin: 2px 0; color: var(--soft-ink); font-size: 12px; }
ul { list-style: none; margin: 0; padding: 0; max-height: 190px; overflow-y: auto; }
li { border-bottom: 1px solid var(--faint-rule); }
.one.act.el-button { display: grid; width: 100%; justify-items: start; text-align: left; padding: 3px 6px; border-left: 3px solid transparent; }
.one.act.el-button.on { border-left-color: var(--accent); background: var(--paper); }
.one :deep(> span) { display: grid; justify-items: start; white-space: normal; }
.one span { color: var(--soft-ink); font-size: 12px; }
</style>

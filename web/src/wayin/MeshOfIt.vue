<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Size } from '../api/client'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import SpanSlider from '../kit/SpanSlider.vue'
import { plain } from '../kit/units'
import { refusal, type Refusal } from '../state/refusal'
import type { Look } from './look'

/** What becomes of a mesh: its plates are laid flat, or it is cut at a height. */
const props = defineProps<{ look: Look }>()
const cut = computed(() => props.look.choices.value.cut ?? null)
const at = computed(() => props.look.shown.value?.cut ?? null)

const WAYS = ['flat', 'cut'] as const
const NAMES = { flat: 'lay its plates flat', cut: 'cut it at a height' }
const AXES = ['x', 'y', 'z'] as const

/** The height as a share of the way up, dragged. */
const share = ref(0.5)
watch(at, (now) => { if (now && now.high > now.low) share.value = (now.height - now.low) / (now.high - now.low) })
watch(share, (next) => {
  const now = at.value
  if (!now || !cut.value) return
  const height = Number((now.low + next * (now.high - now.low)).toPrecision(4))
  if (Math.abs(height - now.height) > 0.005 * (now.high - now.low)) void props.look.told({ cut: { axis: cut.value.axis ?? 'z', height } })
})

function height(size: Size): Promise<Refusal | null> | Refusal {
  const typed = Number(size.text.replace(',', '.')) * (size.unit === 'in' ? 25.4 : 1)
  if (!Number.isFinite(typed)) return refusal(`“${size.text}” is no height, such as 2.5.`)
  return props.look.choose({ cut: { axis: cut.value?.axis ?? 'z', height: typed } })
}
</script>

<template>
  <h2>The mesh</h2>
  <div class="stack">
    <WayField label="What becomes of it" :value="cut ? 'cut' : 'flat'" :options="WAYS" :names="NAMES" :save="(way) => look.told({ cut: way === 'cut' ? { axis: 'z' } : null })" />
    <template v-if="cut">
      <ChoiceField label="Square to" :value="cut.axis ?? 'z'" :options="AXES" :save="(axis) => look.told({ cut: { axis } })" />
      <template v-if="at">
        <SizeField label="Height along it" :size="{ text: plain(at.height, 'mm'), unit: 'mm' }" :save="async (size) => height(size)" />
        <SpanSlider v-model="share" label="Height along it, from below to above" />
        <p class="explain">The bodies reach from {{ plain(at.low, 'mm') }} to {{ plain(at.high, 'mm') }} mm.</p>
      </template>
    </template>
  </div>
</template>

<style scoped>
.explain { margin: 2px 0; color: var(--soft-ink); font-size: 12px; }
</style>

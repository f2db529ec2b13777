<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import { plain } from '../kit/units'
import type { Refusal } from '../state/refusal'
import type { Look } from './look'

/** How large the drawing is, in which unit, and a length of it that is known. */
const props = defineProps<{ look: Look; line: Schemas['LineShown'] | null; by: 'line' | 'points' }>()
const emit = defineEmits<{ by: [way: 'line' | 'points'] }>()
const shown = computed(() => props.look.shown.value)
const unit = computed(() => props.look.choices.value.unit ?? null)
const scaled = computed(() => props.look.choices.value.known ?? null)
const likely = computed(() => shown.value?.likely ?? null)
const mistake = computed(() => (scaled.value ? null : (shown.value?.mistake ?? null)))

const UNITS = ['mm', 'cm', 'm', 'in', 'ft', 'px', 'pt'] as const
const BY = ['line', 'points'] as const
const BY_NAMES = { line: 'by a line', points: 'by two points' }

function both(mm: number): string {
  return `${plain(mm, 'mm')} mm (${plain(mm, 'in')} in)`
}

function should(size: Size): Promise<Refusal | null> {
  return props.look.size({ known: { shown: props.line?.unscaled ?? shown.value?.unscaled ?? 1, should: size } })
}

function mended(): void {
  if (mistake.value) void props.look.size({ known: { shown: mistake.value.shown, should: { text: plain(mistake.value.should, 'mm'), unit: 'mm' } } })
}
</script>

<template>
  <div v-if="shown" class="stack">
    <p><strong>{{ both(shown.width) }}</strong> wide, <strong>{{ both(shown.height) }}</strong> high</p>
    <ChoiceField label="Its numbers are in" :value="unit ?? shown.unit" :options="UNITS.includes(shown.unit as never) ? UNITS : [shown.unit, ...UNITS]" :save="(next) => void look.size({ unit: next as (typeof UNITS)[number], known: null })" />
    <p v-if="!shown.unit_stated" class="assumed">The file does not say so; this was assumed.</p>
    <p v-if="likely" class="assumed">
      {{ likely.because }} It would be {{ plain(likely.width, 'mm') }} × {{ plain(likely.height, 'mm') }} mm:
      <ActButton @click="look.size({ unit: likely.unit, known: null })">take it as {{ likely.called }}</ActButton>
    </p>
    <p v-else-if="mistake" class="assumed">
      Hardly a line of it is round; the longest is {{ plain(mistake.shown, 'mm') }} mm. Perhaps {{ mistake.what }}. It would be {{ plain(mistake.should, 'mm') }} mm:
      <ActButton @click="mended">make it {{ plain(mistake.should, 'mm') }} mm</ActButton>
    </p>
    <WayField label="Check a length" :value="by" :options="BY" :names="BY_NAMES" :save="(way) => emit('by', way)" />
    <p v-if="line" class="explain">{{ by === 'line' ? 'The chosen line is' : 'From end to end it is' }} {{ both(line.length) }}.</p>
    <p v-else-if="by === 'line'" class="explain">Press a line whose length you know, or give the width of the whole.</p>
    <p v-else class="explain">Press two ends of lines whose distance you know.</p>
    <SizeField :label="line ? 'It should measure' : 'The whole should be wide'" :size="{ text: plain(line ? line.length : shown.width, 'mm'), unit: 'mm' }" :save="should" />
    <p v-if="scaled"><ActButton @click="look.size({ known: null })">Back to the size of the file</ActButton></p>
  </div>
</template>

<style scoped>
p { margin: 2px 0; }
.explain { color: var(--soft-ink); font-size: 12px; }
.assumed { color: var(--wrong); font-size: 12px; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import SizeField from '../kit/SizeField.vue'
import { plain } from '../kit/units'
import type { Refusal } from '../state/refusal'
import type { Look } from './look'

/** How large the drawing is, in which unit, and a length of it that is known. */
const props = defineProps<{ look: Look; line: Schemas['LineShown'] | null }>()
const shown = computed(() => props.look.shown.value)
const unit = computed(() => props.look.choices.value.unit ?? null)
const scaled = computed(() => props.look.choices.value.known ?? null)

const UNITS = ['mm', 'cm', 'm', 'in', 'ft', 'px', 'pt'] as const

function both(mm: number): string {
  return `${plain(mm, 'mm')} mm (${plain(mm, 'in')} in)`
}

function should(size: Size): Promise<Refusal | null> {
  return props.look.choose({ known: { shown: props.line?.unscaled ?? shown.value?.unscaled ?? 1, should: size } })
}
</script>

<template>
  <div v-if="shown" class="stack">
    <p><strong>{{ both(shown.width) }}</strong> wide, <strong>{{ both(shown.height) }}</strong> high</p>
    <ChoiceField label="Its numbers are in" :value="unit ?? shown.unit" :options="UNITS.includes(shown.unit as never) ? UNITS : [shown.unit, ...UNITS]" :save="(next) => look.told({ unit: next as (typeof UNITS)[number], known: null })" />
    <p v-if="!shown.unit_stated" class="assumed">The file does not say so; this was assumed.</p>
    <p v-if="line" class="explain">The chosen line is {{ both(line.length) }} long.</p>
    <p v-else class="explain">Press a line whose length you know, or give the width of the whole.</p>
    <SizeField :label="line ? 'It should measure' : 'The whole should be wide'" :size="{ text: plain(line ? line.length : shown.width, 'mm'), unit: 'mm' }" :save="should" />
    <p v-if="scaled"><ActButton @click="look.told({ known: null })">Back to the size of the file</ActButton></p>
  </div>
</template>

<style scoped>
p { margin: 2px 0; }
.explain { color: var(--soft-ink); font-size: 12px; }
.assumed { color: var(--wrong); font-size: 12px; }
</style>

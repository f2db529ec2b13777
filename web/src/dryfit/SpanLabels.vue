<script setup lang="ts">
import { nextTick, ref } from 'vue'

import type { Size } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import { typed } from '../kit/units'
import type { Driven } from '../starters/inPlace'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import type { Label } from './labels'
import ActButton from '../kit/ActButton.vue'

/** Dimensions over a drawing in space; those that a starter's number drives are typed where they stand. */
const props = defineProps<{
  labels: Label[]
  width: number
  height: number
  put?: (driven: Driven, size: Size) => Promise<Refusal | null>
}>()
const workshop = useWorkshop()
const typing = ref('')
/** What was typed last waits for its answer, or was refused: until then, and then, its field stays. */
let waits = false
let refused = false

const CALLED: Record<string, string> = { columns: 'Column', rows: 'Row', length: 'Length', width: 'Width', height: 'Height' }

function key({ driven }: Label): string {
  return driven ? `${driven.starter} ${driven.number} ${driven.index ?? ''}` : ''
}

function called({ driven }: Label): string {
  return driven ? `${CALLED[driven.number] ?? driven.number}${driven.index === null ? '' : ` ${driven.index + 1}`}` : ''
}

async function begin(event: Event, label: Label): Promise<void> {
  typing.value = key(label)
  refused = false
  const place = (event.currentTarget as HTMLElement).parentElement
  await nextTick()
  place?.querySelector('input')?.focus()
}

async function save(label: Label, size: Size): Promise<Refusal | null> {
  if (!props.put || !label.driven) return null
  waits = true
  const refusal = await props.put(label.driven, size)
  waits = false
  refused = refusal !== null
  if (!refused && typing.value === key(label)) typing.value = ''
  return refusal
}

/** A size that was not changed is done with. */
function leave(label: Label): void {
  if (!waits && !refused && typing.value === key(label)) typing.value = ''
}

/** A size keeps its element while others come and go, so that what is being typed stays. */
function unique(label: Label, index: number): string {
  return key(label) || String(index)
}
</script>

<template>
  <svg v-if="labels.length" class="sizes" :width="width" :height="height" aria-hidden="true">
    <g v-for="(label, index) in labels" :key="index" :class="{ inner: label.inner }">
      <line :x1="label.a.x" :y1="label.a.y" :x2="label.b.x" :y2="label.b.y" />
      <path :d="`M${label.a.x - 3} ${label.a.y + 3}l6 -6M${label.b.x - 3} ${label.b.y + 3}l6 -6`" />
    </g>
  </svg>
  <span v-for="(label, index) in labels" :key="unique(label, index)" class="size" :class="{ inner: label.inner, typed: typing && typing === key(label) }" :style="{ left: `${label.at.x}px`, top: `${label.at.y}px` }" @pointerdown.stop>
    <template v-if="put && label.driven">
      <span v-if="typing === key(label)" @focusout="leave(label)" @keydown.esc.capture="typing = ''">
        <SizeField :label="called(label)" :size="typed(label.length, workshop.unit)" :save="(size) => save(label, size)" small hide-label />
      </span>
      <ActButton look="bare" v-else class="typable" :aria-label="`${called(label)}, ${label.text}: type it`" @click="begin($event, label)">{{ label.text }}</ActButton>
    </template>
    <template v-else>{{ label.text }}</template>
  </span>
</template>

<style scoped>
.sizes { position: absolute; inset: 0; pointer-events: none; }
.sizes line, .sizes path { stroke: var(--ink); stroke-width: 0.9; fill: none; }
.sizes .inner line, .sizes .inner path { stroke: var(--accent); }
.size { position: absolute; transform: translate(-50%, -50%); background: var(--ground); padding: 0 4px; font-size: 12px; pointer-events: none; white-space: nowrap; }
.size.inner { color: var(--accent); font-size: 11px; padding: 0 2px; }
.size.typed { z-index: 3; white-space: normal; }
.size > * { pointer-events: auto; }
.typable { border: 0; border-bottom: 1px dotted currentColor; background: none; padding: 0; cursor: text; }
.typable:hover { background: var(--accent-wash); }
</style>

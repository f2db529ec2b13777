<script setup lang="ts">
import { nextTick, ref } from 'vue'

import type { Size } from '../../api/client'
import ActButton from '../../kit/ActButton.vue'
import SizeField from '../../kit/SizeField.vue'
import type { Refusal } from '../../state/refusal'

/** A number that stands on a drawing in space: pressed, it is typed there. */
const props = defineProps<{ label: string; text: string; size: Size; bare?: boolean; x: number; y: number; save: (size: Size) => Promise<Refusal | null> }>()
const typing = ref(false)
const place = ref<HTMLElement | null>(null)
let waits = false
let refused = false

async function begin(): Promise<void> {
  typing.value = true
  refused = false
  await nextTick()
  place.value?.querySelector('input')?.focus()
}

async function take(size: Size): Promise<Refusal | null> {
  waits = true
  const refusal = await props.save(size)
  waits = false
  refused = refusal !== null
  if (!refused) typing.value = false
  return refusal
}

function leave(): void {
  if (!waits && !refused) typing.value = false
}
</script>

<template>
  <span ref="place" class="here" :class="{ typing }" :style="{ left: `${x}px`, top: `${y}px` }" @pointerdown.stop>
    <span v-if="typing" @focusout="leave" @keydown.esc.capture="typing = false"><SizeField :label="label" :size="size" :bare="bare" :save="take" small hide-label /></span>
    <ActButton v-else look="bare" class="number" :aria-label="`${label}, ${text}: type it`" @click="begin">{{ text }}</ActButton>
  </span>
</template>

<style scoped>
.here { position: absolute; transform: translate(-50%, -50%); background: var(--ground); padding: 0 4px; font-size: 12px; white-space: nowrap; }
.here.typing { z-index: 3; white-space: normal; width: 90px; }
.number { border: 0; border-bottom: 1px dotted currentColor; background: none; padding: 0; cursor: text; }
.number:hover { background: var(--accent-wash); }
</style>

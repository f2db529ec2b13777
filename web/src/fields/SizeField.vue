<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'

import type { Size } from '../api/client'
import { useWorkshop, type Refusal } from '../stores/workshop'
import { bareMillimetres, isBare, plain, withUnit } from './units'

/**
 * A size that is typed: sums, units, fractions and names are read by the server, which also says what is wrong
 * with them. What was typed is kept; the last good size stays in force until a new one is taken.
 */
const props = defineProps<{
  label: string
  size: Size
  save: (size: Size) => Promise<Refusal | null>
  value?: number
  bare?: boolean
  small?: boolean
  hideLabel?: boolean
}>()

const workshop = useWorkshop()
const id = useId()
const text = ref('')
const refusal = ref<Refusal | null>(null)
const editing = ref(false)
let saving = false

/** A bare number is shown in the maker's unit; a sum keeps the unit that its numbers were typed in. */
const unit = computed(() => (props.size.text && !isBare(props.size.text) ? props.size.unit : workshop.unit))

function asTyped(): string {
  const foreign = !props.bare && isBare(props.size.text) && props.size.unit !== unit.value
  return foreign ? plain(bareMillimetres(props.size), unit.value) : props.size.text
}

watch(
  () => [props.size.text, props.size.unit, props.value, workshop.unit],
  () => {
    if (!editing.value && !refusal.value) text.value = asTyped()
  },
  { immediate: true },
)

async function commit(): Promise<void> {
  if (saving) return
  editing.value = false
  if (text.value.trim() === asTyped()) {
    refusal.value = null
    return
  }
  saving = true
  refusal.value = await props.save({ text: text.value.trim(), unit: props.bare ? 'mm' : unit.value })
  saving = false
  if (!refusal.value) text.value = asTyped()
}

function cancel(event: KeyboardEvent): void {
  text.value = asTyped()
  refusal.value = null
  editing.value = false
  ;(event.target as HTMLInputElement).blur()
}

async function mend(): Promise<void> {
  const value = refusal.value?.mend?.value
  if (value === undefined) return
  text.value = value
  saving = true
  refusal.value = await props.save({ text: value, unit: 'mm' })
  saving = false
}
</script>

<template>
  <div class="size-field" :class="{ small, refused: refusal, 'bare-box': hideLabel }">
    <label :for="id" :class="{ 'only-read-aloud': hideLabel }">{{ label }}</label>
    <div class="size-box">
      <input
        :id="id"
        v-model="text"
        autocomplete="off"
        spellcheck="false"
        :style="hideLabel ? { width: `${Math.min(26, Math.max(5, text.length + 1))}ch` } : undefined"
        :aria-invalid="refusal !== null"
        :aria-describedby="refusal ? `${id}-why` : undefined"
        @focus="editing = true; ($event.target as HTMLInputElement).select()"
        @blur="commit"
        @keydown.enter.prevent="commit"
        @keydown.esc.stop="cancel"
        @keydown.stop
      />
      <span v-if="!bare" class="unit">{{ unit }}</span>
    </div>
    <span v-if="value !== undefined && !isBare(size.text) && !refusal" class="comes-to">= {{ bare ? value : withUnit(value, workshop.unit) }}</span>
    <p v-if="refusal" :id="`${id}-why`" class="why" role="alert">
      {{ refusal.message }}
      <button v-if="refusal.mend" type="button" class="plain-button" @mousedown.prevent="mend">{{ refusal.mend.label }}</button>
    </p>
  </div>
</template>

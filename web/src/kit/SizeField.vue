<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, useId, useTemplateRef, watch } from 'vue'

import type { Size } from '../api/client'
import type { Refusal } from '../state/refusal'
import ActButton from './ActButton.vue'
import NameOffers from './NameOffers.vue'
import TextInput from './TextInput.vue'
import { TRADE } from './trade'
import { unitShown } from './unit'
import { bareMillimetres, isBare, plain, stepped, withUnit } from './units'

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
  /** Hears that what was typed and refused is given up. */
  giveUp?: () => void
}>()

const input = useTemplateRef('input')
const id = useId()
const text = ref('')
const refusal = ref<Refusal | null>(null)
const editing = ref(false)
/** What is on its way to the server, and whether more was typed and left since. */
let sent: string | null = null
let more = false

/** A bare number is shown in the maker's unit; a sum keeps the unit that its numbers were typed in. */
const unit = computed(() => (props.size.text && !isBare(props.size.text) ? props.size.unit : unitShown.value))

function asTyped(): string {
  const foreign = !props.bare && isBare(props.size.text) && props.size.unit !== unit.value
  return foreign ? plain(bareMillimetres(props.size), unit.value) : props.size.text
}

watch(
  () => [props.size.text, props.size.unit, props.value, unitShown.value],
  () => {
    // What is being saved or was refused stays as it was typed, until it is taken after all.
    const taken = props.size.text.trim() === text.value.trim()
    if (editing.value || sent !== null || (refusal.value && !taken)) return
    refusal.value = null
    text.value = asTyped()
  },
  { immediate: true },
)

async function commit(): Promise<void> {
  if (sent !== null) {
    more = text.value.trim() !== sent
    return
  }
  editing.value = false
  if (text.value.trim() === asTyped()) refusal.value = null
  else await send(text.value.trim(), props.bare ? 'mm' : unit.value)
}

/** What is typed and left, or stepped on, while it is on its way goes next. */
async function send(size: string, inUnit: Size['unit']): Promise<void> {
  sent = size
  refusal.value = await props.save({ text: size, unit: inUnit })
  sent = null
  if (!refusal.value && text.value.trim() === size) text.value = asTyped()
  if (!more) return
  more = false
  await commit()
}

/** Where the caret is while something is typed, for the names that may stand there. */
const caret = ref(-1)
const offers = useTemplateRef('offers')

function look(event: KeyboardEvent): void {
  caret.value = editing.value && text.value !== asTyped() ? ((event.target as HTMLInputElement).selectionStart ?? -1) : -1
}

function keyed(event: KeyboardEvent): void {
  if (offers.value?.key(event)) return
  if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && isBare(text.value)) {
    event.preventDefault()
    step((event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : 1))
    return
  }
  if (event.key === 'Enter') {
    event.preventDefault()
    void commit()
  } else if (event.key === 'Escape') {
    event.stopPropagation()
    cancel()
  }
}

/** By its last place, or ten of them, with the drawing following: a size can be found by looking. */
function step(by: number): void {
  editing.value = true
  text.value = stepped(text.value, by)
  void settle()
}

const settle = useDebounceFn(commit, 120)

function offered(taken: string, at: number): void {
  text.value = taken
  caret.value = at
}

/** Also where the caret has stayed since the last answer: what is typed then is as much the maker's own. */
function type(typed: string): void {
  editing.value = true
  text.value = typed
}

function begin(): void {
  editing.value = true
  input.value?.select()
}

function cancel(): void {
  if (refusal.value) props.giveUp?.()
  // What is on its way is no longer given up: it is what will stand here.
  text.value = sent ?? asTyped()
  refusal.value = null
  editing.value = false
  input.value?.blur()
}

/** A mend of what was typed is another value for it; it is saved as if that had been typed. */
async function take(value: string): Promise<void> {
  text.value = value
  await send(value, 'mm')
}
</script>

<template>
  <div class="size-field offering" :class="{ small, refused: refusal, 'bare-box': hideLabel }">
    <label :for="id" :class="{ 'only-read-aloud': hideLabel, trade: TRADE[label] }">{{ label }}</label>
    <div class="size-box">
      <TextInput
        :id="id"
        ref="input"
        :model-value="text"
        @update:model-value="type"
        :wide="hideLabel ? Math.min(26, Math.max(5, text.length + 1)) : undefined"
        :aria-invalid="refusal !== null"
        :aria-describedby="refusal ? `${id}-why` : TRADE[label] ? `${id}-word` : undefined"
        @focus="begin"
        @blur="commit"
        @keydown="keyed"
        @keyup="look"
      >
        <span v-if="!bare" class="unit">{{ unit }}</span>
      </TextInput>
    </div>
    <span v-if="TRADE[label] && !refusal" :id="`${id}-word`" class="trade-sentence">{{ TRADE[label] }}</span>
    <NameOffers v-if="caret >= 0 && editing" ref="offers" :text="text" :caret="caret" @take="offered" />
    <span v-if="value !== undefined && !isBare(size.text) && !refusal" class="comes-to">= {{ bare ? value : withUnit(value, unitShown) }}</span>
    <p v-if="refusal" :id="`${id}-why`" class="why" role="alert">
      {{ refusal.message }}
      <ActButton v-for="mend in refusal.mends" :key="mend.label" @mousedown.prevent="take(mend.value)">{{ mend.label }}</ActButton>
    </p>
  </div>
</template>

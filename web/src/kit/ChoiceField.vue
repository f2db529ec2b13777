<script setup lang="ts" generic="T extends string | number">
import { computed, useId } from 'vue'

import ChoiceBox from './ChoiceBox.vue'
import { TRADE } from './trade'

/** One of a few choices with its label; `names` says what to call those that are not called what they are. */
const props = defineProps<{ label: string; value: T | null; options: readonly T[]; names?: Partial<Record<T, string>>; empty?: string; save: (value: T) => void }>()
const id = useId()
const choices = computed(() => props.options.map((value) => ({ value, label: props.names?.[value] ?? String(value) })))
</script>

<template>
  <div class="row-field">
    <label :for="id" class="cut-off" :class="{ trade: TRADE[label] }" :title="label">{{ label }}</label>
    <ChoiceBox :id="id" :said="TRADE[label] && `${id}-said`" :value="value" :choices="choices" :empty="empty" :save="save" />
    <span v-if="TRADE[label]" :id="`${id}-said`" class="trade-sentence">{{ TRADE[label] }}</span>
  </div>
</template>

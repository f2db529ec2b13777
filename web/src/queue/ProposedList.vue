<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import { when } from '../projects/listed'

/** What makers propose for the library, with what would be another in it: the operator takes it or turns it down. */
const waiting = shallowRef<Schemas['ProposedShown'][]>([])
const trouble = ref('')

const emit = defineEmits<{ count: [count: number] }>()

function show(answer: { data?: Schemas['ProposedShown'][]; error?: unknown }): void {
  if (answer.data) waiting.value = answer.data
  emit('count', waiting.value.length)
  trouble.value = answer.data ? '' : sentence(answer.error)
}
onMounted(async () => show(await client.GET('/api/desk/proposed')))

const take = async (number: number): Promise<void> => show(await client.POST('/api/desk/proposed/{number}/take', { params: { path: { number } } }))
const turnDown = async (number: number): Promise<void> => show(await client.DELETE('/api/desk/proposed/{number}', { params: { path: { number } } }))
</script>

<template>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  <p v-if="!waiting.length && !trouble" class="soft">Nobody proposes anything. A maker’s readings and coupons come here, not into the library.</p>
  <ul v-if="waiting.length" aria-label="Proposed" class="proposed">
    <li v-for="one in waiting" :key="one.number">
      <p><strong>{{ one.name }}</strong>, a {{ one.kind }}, from {{ one.who }}, {{ when(one.when) }}</p>
      <p v-if="!one.changes" class="soft">The library has none of this name.</p>
      <p v-else-if="!one.changes.length" class="soft">As the library has it.</p>
      <ul v-else class="changes"><li v-for="text in one.changes" :key="text">{{ text }}</li></ul>
      <p class="in-line"><ActButton look="ink" :aria-label="`Take ${one.name} of ${one.who} into the library`" @click="take(one.number)">Take it into the library</ActButton> <ActButton :aria-label="`Turn down ${one.name} of ${one.who}`" @click="turnDown(one.number)">Turn it down</ActButton></p>
    </li>
  </ul>
</template>

<style scoped>
.proposed { margin: 0; padding: 0; list-style: none; }
.proposed > li { padding: 8px 0; border-bottom: 1px solid var(--rule); }
.proposed p { margin: 0 0 4px; }
.changes { margin: 0 0 6px; padding-left: 18px; font-variant-numeric: tabular-nums; overflow-wrap: anywhere; }
</style>

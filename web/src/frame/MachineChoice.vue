<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'

import { client, type Machine } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** Which machine cuts: one of the project's, or one of the library, which is then in the project too. */
const workshop = useWorkshop()
const edits = useEdits()
const library = ref<Machine[]>([])

onMounted(async () => {
  const { data } = await client.GET('/api/machines')
  if (data) library.value = data
})

const own = computed(() => workshop.document?.machines ?? [])
const others = computed(() => library.value.filter(({ id }) => !own.value.some((machine) => machine.id === id)))

function bed({ bed_width, bed_height }: Machine): string {
  return `${bed_width.text} × ${bed_height.text}`
}
</script>

<template>
  <p class="explain">Kerf, clearances and settings are those that are known of it.</p>
  <div class="choices">
    <ActButton v-for="machine in own" :key="machine.id" :pressed="machine.id === workshop.document?.machine" @click="edits.change({ do: 'use machine', machine: machine.id })">
      {{ machine.name }}, {{ bed(machine) }}
    </ActButton>
    <ActButton v-for="machine in others" :key="machine.id" @click="edits.change({ do: 'put machine', machine, use: true })">{{ machine.name }}, {{ bed(machine) }}, of the library</ActButton>
    <ActButton v-if="workshop.document?.machine" @click="edits.change({ do: 'use machine', machine: '' })">No machine in particular</ActButton>
  </div>
</template>

<style scoped>
.explain { color: var(--soft-ink); margin: 4px 0; font-size: 12px; }
.choices { display: grid; gap: 6px; justify-items: start; }
.choices .act.on { color: var(--ink); text-decoration: none; font-weight: 650; }
</style>

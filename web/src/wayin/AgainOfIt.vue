<script setup lang="ts">
import { computed } from 'vue'

import TickField from '../kit/TickField.vue'
import type { WayIn } from './look'

/** A newer drawing beside what was taken of the earlier one: what is taken of it is ticked. */
type Again = NonNullable<WayIn['again']>
type Row = Again['rows'][number]
const props = defineProps<{ again: Again; chosen: number[]; gone: string[] }>()
const emit = defineEmits<{ choose: [index: number]; gone: [part: string] }>()

const differing = computed(() => props.again.rows.filter((row) => row.what !== 'same'))
const same = computed(() => props.again.rows.length - differing.value.length)

function says(row: Row): string {
  if (row.what === 'changed') return `${row.name}: ${row.how}`
  return row.what === 'new' ? `${row.name} is new` : `${row.name} is gone; remove it with its joints`
}
</script>

<template>
  <div class="stack">
    <p>A newer one of {{ again.earlier }}. What is ticked is taken; parts that are known again keep their name, stock, joints, cut-outs and marks.</p>
    <ul>
      <li v-for="row in differing" :key="`${row.what}${row.part}${row.found}`">
        <TickField v-if="row.found !== null" :value="chosen.includes(row.found)" :save="() => emit('choose', row.found!)">{{ says(row) }}</TickField>
        <TickField v-else :value="gone.includes(row.part ?? '')" :save="() => emit('gone', row.part ?? '')">{{ says(row) }}</TickField>
      </li>
    </ul>
    <p v-if="same" class="explain">{{ same === 1 ? '1 part is as it was.' : `${same} parts are as they were.` }}</p>
  </div>
</template>

<style scoped>
p { margin: 2px 0; }
ul { list-style: none; margin: 0; padding: 0; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

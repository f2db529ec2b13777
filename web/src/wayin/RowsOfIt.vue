<script setup lang="ts">
import { computed } from 'vue'

import ChoiceBox from '../kit/ChoiceBox.vue'
import type { Look, WayIn } from './look'

/** What each line is for: a row for each layer of the file, or for each colour where it has no layers. */
const props = defineProps<{ look: Look }>()
const rows = computed(() => props.look.shown.value?.rows ?? [])

type Purpose = WayIn['rows'][number]['purpose']
const PURPOSES: Purpose[] = ['cut', 'score', 'engrave', 'pocket', 'reference', 'left out']
const choices = PURPOSES.map((value) => ({ value, label: value }))

function put(key: string, purpose: Purpose): void {
  void props.look.told({ purposes: { ...props.look.choices.value.purposes, [key]: purpose } })
}
</script>

<template>
  <ul class="rows-of-it">
    <li v-for="row in rows" :key="row.key">
      <span class="swatch" :style="{ background: row.colour || 'transparent' }" aria-hidden="true" />
      <label :for="`row-${row.key}`" class="cut-off" :title="row.key">{{ row.key }} <span class="count">{{ row.lines }}</span></label>
      <ChoiceBox :id="`row-${row.key}`" :value="row.purpose" :choices="choices" :save="(purpose) => put(row.key, purpose)" />
      <span class="reason">{{ row.reason }}</span>
    </li>
  </ul>
</template>

<style scoped>
.rows-of-it { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; }
li { display: grid; grid-template-columns: 12px minmax(0, 1fr) 108px; gap: 2px 8px; align-items: center; }
.swatch { width: 12px; height: 12px; border: 1px solid var(--rule); }
.count { color: var(--soft-ink); }
.reason { grid-column: 2 / -1; color: var(--soft-ink); font-size: 11.5px; }
</style>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import { fine } from '../fields/units'
import { useWorkshop } from '../stores/workshop'

/** One row for each opening and what goes into it: sizes, the predicted gap and, where proved, the proved one. */
const props = defineProps<{ proved?: (number | null)[] | null }>()
const workshop = useWorkshop()

const ledger = ref<HTMLElement | null>(null)

/** The chosen joint's rows are brought into sight. */
watch(
  () => workshop.jointId,
  () => void nextTick(() => ledger.value?.querySelector('tr.chosen')?.scrollIntoView({ block: 'nearest' })),
)

const rows = computed(() =>
  (workshop.shown?.ledger ?? []).map((row, index) => ({
    row,
    opening: name(row.opening_part),
    insert: row.hardware || name(row.insert_part),
    proved: props.proved?.[index],
  })),
)

function name(id: string): string {
  return workshop.document?.parts.find((p) => p.id === id)?.name ?? id
}

function off(proved: number | null | undefined, gap: number): boolean {
  return typeof proved === 'number' && Math.abs(proved - gap) > 0.01
}
</script>

<template>
  <div ref="ledger" class="ledger">
    <table class="figures">
      <thead>
        <tr>
          <th>Fit ledger, {{ workshop.unit }}</th>
          <th>opening in</th>
          <th class="number">thick</th>
          <th>insert</th>
          <th class="number">thick</th>
          <th class="number">opening</th>
          <th class="number">insert</th>
          <th class="number">gap</th>
          <th class="number" title="With the thickest caliper reading">tightest</th>
          <th v-if="proved" class="number">proved gap</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="({ row, opening, insert, proved: measured }, index) in rows" :key="index" :class="{ chosen: row.joint === workshop.jointId, wrong: off(measured, row.gap) }" @click="workshop.jointId = row.joint">
          <td>{{ row.kind }}, {{ row.fit }}</td>
          <td>{{ opening }}</td>
          <td class="number">{{ fine(row.opening_thickness, workshop.unit) }}</td>
          <td>{{ insert }}</td>
          <td class="number">{{ row.hardware ? '–' : fine(row.insert_thickness, workshop.unit) }}</td>
          <td class="number">{{ fine(row.opening, workshop.unit) }}</td>
          <td class="number">{{ fine(row.insert, workshop.unit) }}</td>
          <td class="number"><strong>{{ fine(row.gap, workshop.unit) }}</strong></td>
          <td class="number">{{ fine(row.tightest, workshop.unit) }}</td>
          <td v-if="proved" class="number"><strong>{{ typeof measured === 'number' ? fine(measured, workshop.unit) : 'not measured' }}</strong></td>
        </tr>
        <tr v-if="!rows.length"><td colspan="10">No joints yet: the ledger lists every opening and what goes into it.</td></tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.ledger { overflow: auto; height: 100%; background: var(--ground); padding: 0 8px 8px; font-size: 12.5px; }
td { white-space: nowrap; max-width: 150px; overflow: hidden; text-overflow: ellipsis; }
</style>

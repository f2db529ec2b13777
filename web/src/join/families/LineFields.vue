<script setup lang="ts">
import type { TabAndSlot } from '../../api/client'
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useJointEdits } from '../edit'

/** Where on a part's face a joint's line runs. */
defineProps<{ line: TabAndSlot['b'] }>()
const { putEnd, nowEnd, value, name } = useJointEdits()
</script>

<template>
  <p class="explain">Line on the face of {{ name(line.part) }}, from its lower left corner:</p>
  <SizeField label="begins across" :size="line.x" :value="value('b.x')" :save="(x) => putEnd('b', { x })" />
  <SizeField label="begins up" :size="line.y" :value="value('b.y')" :save="(y) => putEnd('b', { y })" />
  <SizeField label="runs at (degrees)" :size="line.turn" bare :save="(turn) => putEnd('b', { turn })" />
  <PlainField label="Lines" :value="line.lines" :most="60" :save="(lines) => nowEnd('b', { lines: Number(lines) })" />
  <p v-if="line.at_x.length" class="explain">and {{ line.at_x.length }} more, unevenly spaced, that its starter places.</p>
  <SizeField v-if="line.lines > 1" label="Step between lines" :size="line.step" :value="value('b.step')" :save="(step) => putEnd('b', { step })" />
</template>

<style scoped>
.explain { color: var(--soft-ink); font-size: 12px; }
</style>

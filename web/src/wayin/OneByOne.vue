<script setup lang="ts" generic="P extends { x: number; y: number; taken: boolean; says: string }">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import TickField from '../kit/TickField.vue'

/** Mends of one kind: how many were made, and each of them to be taken or left. */
const props = defineProps<{ says: string; places: P[] }>()
const emit = defineEmits<{ turn: [place: P]; all: [taken: boolean] }>()
const any = computed(() => props.places.some((place) => place.taken))
</script>

<template>
  <FoldSection :title="says" folded>
    <p><ActButton @click="emit('all', !any)">{{ any ? 'Leave all' : 'Take all' }}</ActButton></p>
    <ul>
      <li v-for="place in places" :key="`${place.x} ${place.y}`">
        <TickField :value="place.taken" :save="() => emit('turn', place)">{{ place.says }} at {{ place.x.toFixed(1) }}, {{ place.y.toFixed(1) }}</TickField>
      </li>
    </ul>
  </FoldSection>
</template>

<style scoped>
p { margin: 0 0 2px; }
ul { list-style: none; margin: 0; padding: 0; max-height: 150px; overflow-y: auto; font-size: 12.5px; }
</style>

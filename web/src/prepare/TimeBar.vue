<script setup lang="ts">
import { computed } from 'vue'

import ActButton from '../kit/ActButton.vue'
import ChoiceBox from '../kit/ChoiceBox.vue'
import SpanSlider from '../kit/SpanSlider.vue'
import type { Player } from './player'
import { spoken } from './prepared'

/** The run of the sheet in time: played, stopped, and drawn to any moment. */
const props = defineProps<{ player: Player; whole: number }>()

const SPEEDS = [1, 5, 10, 50, 200]
const share = computed({
  get: () => (props.player.total.value ? props.player.now.value / props.player.total.value : 0),
  set: (now) => void props.player.seek(now),
})
const left = computed(() => props.whole - props.player.now.value)
</script>

<template>
  <div class="time-bar" role="group" aria-label="Preview">
    <ActButton look="ink" @click="player.playing.value ? player.pause() : player.play()">{{ player.playing.value ? 'Pause' : 'Play' }}</ActButton>
    <SpanSlider v-model="share" label="Moment of the run" />
    <span class="now">{{ spoken(player.now.value) }} gone, {{ spoken(left) }} to go</span>
    <ChoiceBox label="How fast it is played" :value="player.speed.value" :choices="SPEEDS.map((value) => ({ value, label: `${value} ×` }))" :save="player.atSpeed" />
  </div>
</template>

<style scoped>
.time-bar { display: grid; grid-template-columns: auto minmax(0, 1fr) auto 64px; gap: 16px; align-items: center; padding: 5px 14px; border-top: 1px solid var(--rule); background: var(--paper); }
.now { min-width: 190px; text-align: right; }
</style>

<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import type { View } from '../../drawing/view'
import { plain } from '../../kit/units'
import { useWorkshop } from '../../state/workshop'
import { useBends } from './bends'

/** Bend lines on the flat drawing: up in long dashes, down in dashes and dots, each with its angle and deduction. */
const props = defineProps<{ view: View; bends: Schemas['BendShown'][] }>()
const workshop = useWorkshop()
const chosen = useBends()

const lines = computed(() =>
  props.bends.map((bend) => {
    const [a, b] = [props.view.toScreen(bend.x1, bend.y1), props.view.toScreen(bend.x2, bend.y2)]
    const [left, right] = a.x < b.x || (a.x === b.x && a.y > b.y) ? [a, b] : [b, a]
    const long = Math.hypot(right.x - left.x, right.y - left.y)
    const turn = (Math.atan2(right.y - left.y, right.x - left.x) * 180) / Math.PI
    const full = `${bend.called}, ${Number(bend.angle.toFixed(2))}° ${bend.up ? 'up' : 'down'}, BD ${plain(bend.deduction, workshop.unit)}`
    const short = `${Number(bend.angle.toFixed(1))}° ${bend.up ? 'up' : 'down'}`
    const words = long > full.length * 6 ? full : long > short.length * 6 ? short : ''
    return { bend, a, b, turn, full, words, at: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 } }
  }),
)
</script>

<template>
  <g v-for="{ bend, a, b, turn, full, words, at } in lines" :key="bend.id" class="bend" :class="{ up: bend.up, chosen: chosen.chosen?.id === bend.id }">
    <line :x1="a.x" :y1="a.y" :x2="b.x" :y2="b.y" class="middle" />
    <line
      :x1="a.x" :y1="a.y" :x2="b.x" :y2="b.y" class="grab" tabindex="0" role="button" :aria-label="full" :aria-pressed="chosen.chosen?.id === bend.id"
      @click.stop="chosen.choose(bend.id)" @keydown.enter.space.prevent.stop="chosen.choose(bend.id)"
    ><title>{{ full }}</title></line>
    <text v-if="words" :transform="`translate(${at.x} ${at.y}) rotate(${turn})`" y="-4">{{ words }}</text>
  </g>
  <g :transform="view.place.value" class="ends"><path v-for="bend in bends" :key="bend.id" :d="bend.tangents" vector-effect="non-scaling-stroke" /></g>
</template>

<style scoped>
.middle { stroke: var(--ink); stroke-width: 1.2; stroke-dasharray: 14 4 2 4 2 4; pointer-events: none; }
.up .middle { stroke-dasharray: 14 5; }
.chosen .middle { stroke: var(--accent); stroke-width: 2; }
.grab { stroke: transparent; stroke-width: 11; cursor: pointer; outline: none; }
.grab:focus-visible { stroke: var(--accent-wash); }
.ends path { fill: none; stroke: var(--soft-ink); stroke-width: 0.5; pointer-events: none; }
text { font-size: 11px; text-anchor: middle; fill: var(--ink); pointer-events: none; paint-order: stroke; stroke: var(--ground); stroke-width: 3px; stroke-opacity: 0.7; }
.chosen text { fill: var(--accent); font-weight: 650; }
</style>

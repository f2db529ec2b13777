<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'

import { USUAL_SHAPES } from '../api/tables'
import ActButton from '../kit/ActButton.vue'
import { isHeard, letterKeys } from '../frame/keys'
import { tint } from '../look/tint'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import { PUT } from './holes'
import { useMode } from './mode'
import { usePutting } from './putting'

/** The shapes that can be put on a part, as what they would leave in a strip of its own stock. */
const picked = useChoice()
const workshop = useWorkshop()
const mode = useMode()
const putting = usePutting()

const fill = computed(() => tint(workshop.document?.stocks.find((s) => s.id === picked.part?.stock)))

/** Room for a shape in the strip (px), and around it. */
const ROOM = { width: 44, height: 26 }

function seen(kind: keyof typeof USUAL_SHAPES): string {
  const { width, height } = USUAL_SHAPES[kind]
  const scale = Math.min(ROOM.width / width, ROOM.height / height)
  return `${-ROOM.width / 2 / scale} ${-ROOM.height / 2 / scale} ${ROOM.width / scale} ${ROOM.height / scale}`
}

useEventListener(window, 'keydown', (event) => {
  if (!isHeard(event) || mode.mode !== 'put a shape') return
  if (event.key === 'Escape') mode.be('choose')
  if (event.key !== 'Enter') return
  // The button that it was taken up by would be pressed again.
  event.preventDefault()
  void putting.put('in the middle')
})

useEventListener(window, 'keydown', (event) => {
  if (!isHeard(event) || event.ctrlKey || event.metaKey || event.altKey) return
  const key = event.key.toLowerCase()
  const put = PUT.find(([, hole]) => hole.key === key)
  if (put) putting.takeUp(put[0])
  else if (key === 'h') mode.be('draw a shape')
})

function title(key: string | undefined): string | undefined {
  return letterKeys.value && key ? `Key: ${key}` : undefined
}
</script>

<template>
  <section class="strip" aria-label="Shapes to put on it">
    <ActButton v-for="[kind, hole] in PUT" :key="kind" look="bare" class="one" :pressed="mode.mode === 'put a shape' && putting.kind === kind" :title="title(hole.key)" @click="putting.takeUp(kind)">
      <svg class="piece" :viewBox="`0 0 ${ROOM.width + 12} ${ROOM.height + 10}`" :height="ROOM.height + 10" :style="{ background: fill }" aria-hidden="true">
        <svg x="6" y="5" :width="ROOM.width" :height="ROOM.height" :viewBox="seen(kind)" overflow="visible">
          <path :d="USUAL_SHAPES[kind].path" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
        </svg>
      </svg>
      <span>{{ hole.name }}</span>
    </ActButton>
    <ActButton look="bare" class="one hand" :pressed="mode.mode === 'draw a shape'" :title="title('h')" @click="mode.be('draw a shape')">
      <svg class="piece" :viewBox="`0 0 ${ROOM.width + 12} ${ROOM.height + 10}`" :height="ROOM.height + 10" :style="{ background: fill }" aria-hidden="true"><path d="M10 24c6 -18 12 -14 14 -6s8 10 12 0s6 -10 10 -8" class="stroke" /></svg>
      <span>By hand</span>
    </ActButton>
  </section>
</template>

<style scoped>
.strip { display: flex; overflow-x: auto; border-top: 1px solid var(--ink); background: var(--paper); }
.el-button.act.one { flex: 1 0 auto; margin: 0; border: 0; background: none; padding: 0 0 3px; display: grid; justify-content: stretch; cursor: pointer; min-width: 56px; border-bottom: 3px solid transparent; }
.one :deep(> span) { display: grid; justify-items: center; gap: 2px; width: 100%; }
.one .piece { display: block; width: 100%; }
.one path { fill: var(--ground); stroke: var(--ink); stroke-width: 1; }
.one path.stroke { fill: none; stroke-width: 1.4; }
.one span span { font-size: 11px; font-stretch: 85%; padding: 0 3px; white-space: nowrap; }
.el-button.act.one:hover { background: var(--ground); }
.el-button.act.one.on { border-bottom-color: var(--accent); color: var(--accent); font-weight: 620; }
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { INCH, STAGES } from '../api/tables'
import { held } from '../drawing/fingers'
import ActButton from '../kit/ActButton.vue'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { rowKey, spoken, taskKey, type Prepared, type Row } from './prepared'

/** What the machine does, row by row; rows are dragged, with Shift all of their stage, or moved by Alt and the arrow keys. */
const props = defineProps<{ prepared: Prepared; chosen: string | null; done: number }>()
const emit = defineEmits<{ choose: [row: string | null] }>()
const workshop = useWorkshop()
const edits = useEdits()
const dragged = ref<number | null>(null)
const over = ref<number | null>(null)

const rows = computed(() => props.prepared.rows)

/** A row that was moved by the keyboard keeps it: what is moved in a page loses the caret. */
const list = ref<HTMLElement | null>(null)
const moved = ref<number | null>(null)
watch(
  rows,
  () => {
    if (moved.value !== null) list.value?.querySelectorAll<HTMLElement>('.row')[moved.value]?.focus()
    moved.value = null
  },
  { flush: 'post' },
)

/** Puts a row, or the whole of its stage, before another row; the last place is behind all. */
async function move(from: number, to: number, whole = false): Promise<void> {
  const row = rows.value[from]
  if (!row || to === from) return
  const goes = (one: Row): boolean => (whole ? one.stage === row.stage : one === row)
  const order = [...rows.value.slice(0, to).filter((one) => !goes(one)), ...rows.value.filter(goes), ...rows.value.slice(to).filter((one) => !goes(one))]
  const tasks = order.flatMap(({ jobs }) => jobs.flatMap((job) => props.prepared.jobs[job]?.task ?? []))
  const here = new Set(tasks.map(taskKey))
  const stored = await edits.told(
    edits.edit(({ preparation }) => ({
      do: 'set preparation',
      preparation: { ...preparation, order: [...preparation.order.filter((task) => !here.has(taskKey(task))), ...tasks] },
    })),
  )
  const now = order.indexOf(row)
  if (stored) emit('choose', keyOf(row))
  moved.value = stored ? now : null
}

function drop(event: DragEvent): void {
  if (dragged.value !== null && over.value !== null) void move(dragged.value, over.value, event.shiftKey)
  dragged.value = over.value = null
}

/** By a finger that is held on it a row is taken up, and put where the finger is lifted. */
const byFinger = ref(false)
function press(event: PointerEvent, at: number): void {
  byFinger.value = event.pointerType === 'touch'
  held(event, () => { dragged.value = over.value = at })
}

/** A row on its way keeps the page from scrolling. */
useEventListener(list, 'touchmove', (event: TouchEvent) => { if (dragged.value !== null) event.preventDefault() }, { passive: false })

function follow(event: PointerEvent): void {
  if (!byFinger.value || dragged.value === null) return
  const row = document.elementFromPoint(event.clientX, event.clientY)?.closest('li')
  const at = row ? [...(list.value?.children ?? [])].indexOf(row) : -1
  if (at >= 0) over.value = at
}

function lift(event: PointerEvent): void {
  if (!byFinger.value || dragged.value === null) return
  if (event.type === 'pointerup' && over.value !== null) void move(dragged.value, over.value)
  dragged.value = over.value = null
}

function keyed(event: KeyboardEvent, at: number): void {
  if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
  event.preventDefault()
  const to = event.key === 'ArrowUp' ? at - 1 : at + 2
  if (to >= 0 && to <= rows.value.length) void move(at, to, event.shiftKey)
}

const keyOf = (row: Row): string => rowKey(props.prepared, row)

function settings({ setting, worked }: Row): string {
  if (worked) return `${worked.name}, ${worked.passes} ${worked.passes === 1 ? 'pass' : 'passes'}, ${Math.round(setting.speed * 60)} mm/min, ${setting.power} rpm`
  const power = props.prepared.kind === 'beam' ? `${setting.power} %` : `${setting.power} rpm`
  return `${setting.speed} mm/s, ${power}${setting.passes > 1 ? `, ${setting.passes} passes` : ''}`
}

function many({ jobs, lines }: Row): string {
  return `${jobs.length > 1 ? `${jobs.length} copies, ` : ''}${lines} ${lines === 1 ? 'line' : 'lines'}`
}
</script>

<template>
  <ol ref="list" class="order" aria-label="Running order" @dragend="drop" @pointermove="follow" @pointerup="lift" @pointercancel="lift" @contextmenu="byFinger && $event.preventDefault()">
    <li v-for="(row, at) in rows" :key="keyOf(row)" :class="{ over: over === at }" :draggable="!byFinger" @pointerdown="press($event, at)" @dragstart="dragged = at" @dragover.prevent="over = at">
      <ActButton look="bare" class="row" :class="{ chosen: chosen === keyOf(row), done: at < done }" :pressed="chosen === keyOf(row)" title="Alt and the arrow keys move it, with Shift all of its kind" @click="emit('choose', chosen === keyOf(row) ? null : keyOf(row))" @keydown="keyed($event, at)">
        <i :class="`key-${row.operation}`"></i>
        <span class="what">{{ STAGES[row.stage].asked }}: {{ row.name }}</span>
        <span class="time">{{ spoken(row.seconds) }}</span>
        <small><template v-if="!row.worked">{{ many(row) }}, {{ Math.round(row.length / (workshop.unit === 'in' ? INCH : 1)) }} {{ workshop.unit }} · </template>{{ settings(row) }}</small>
      </ActButton>
    </li>
    <li class="last" :class="{ over: over === rows.length }" @dragover.prevent="over = rows.length"></li>
  </ol>
</template>

<style scoped>
.order { list-style: none; margin: 4px 0 8px; padding: 0; border-top: 1px solid var(--rule); }
li { border-bottom: 1px solid var(--faint-rule); border-top: 2px solid transparent; margin-top: -2px; }
li.over { border-top-color: var(--accent); }
.last { height: 6px; border-bottom: 0; }
.row { display: grid; grid-template-columns: 20px minmax(0, 1fr) auto; gap: 0 6px; width: 100%; padding: 3px 4px; cursor: grab; text-align: left; }
.row.el-button.act { display: grid; }
.row i { align-self: center; }
.what { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.row small { grid-column: 2 / -1; color: var(--soft-ink); font-size: 11.5px; font-stretch: 88%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.row.chosen { background: var(--accent-wash); }
.row.done .what { text-decoration: line-through; text-decoration-thickness: 1px; color: var(--soft-ink); }
.time { font-weight: 550; }
</style>

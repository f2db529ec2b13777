<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'

import { client, type Schemas } from '../api/client'
import { fine } from '../kit/units'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import RowsTable from '../kit/RowsTable.vue'

/** One row for each opening and what goes into it: sizes, the gap as predicted and, where they are known, as proved and as measured. */
type OnFaces = Schemas['GapOnFaces']
const props = defineProps<{ proved?: (number | null)[] | null; faces?: OnFaces[] }>()
const workshop = useWorkshop()
const picked = useChoice()

/** Less than this (mm) is not told. */
const LEAST = 0.01

const ledger = useTemplateRef<{ frame: HTMLElement | null }>('ledger')

/** The chosen joint's rows are brought into sight. */
watch(
  () => picked.jointId,
  () => void nextTick(() => ledger.value?.frame?.querySelector('tr.chosen')?.scrollIntoView({ block: 'nearest' })),
)

/** The gaps of parts that were cut, by what was measured on them. */
const measured = ref<(OnFaces | null)[]>([])
watch(
  () => [workshop.shown?.version, workshop.document?.measured.length],
  async () => {
    const slug = workshop.shown?.slug
    measured.value = slug && workshop.document?.measured.length ? ((await client.GET('/api/projects/{slug}/measured', { params: { path: { slug } } })).data?.gaps ?? []) : []
  },
  { immediate: true },
)

const rows = computed(() =>
  (workshop.shown?.ledger ?? []).map((row, index) => ({
    row,
    opening: name(row.opening_part),
    insert: row.hardware || name(row.insert_part),
    proved: props.proved?.[index],
    faces: props.faces?.[index],
    measured: measured.value[index],
  })),
)

function name(id: string): string {
  return workshop.document?.parts.find((p) => p.id === id)?.name ?? id
}

function off(proved: number | null | undefined, gap: number): boolean {
  return typeof proved === 'number' && Math.abs(proved - gap) > 0.01
}
type Row = (typeof rows.value)[number]

/** A gap on the upper and on the lower face of the opening; one number where they are the same. */
function onFaces(gaps: OnFaces | null | undefined, none: string): string {
  if (!gaps) return none
  const [above, below] = [gaps.above, gaps.below].map((gap) => (gap === null ? none : fine(gap, workshop.unit)))
  return above === below ? (above ?? none) : `${above} / ${below}`
}

/** What reliefs add to a gap and round corners take of it, where that is seen. */
function corners({ eased, root, short }: Row['row']): string {
  const unit = workshop.unit
  if (eased > LEAST) return `+${fine(eased, unit)}`
  if (root > LEAST) return `−${fine(root, unit)}`
  return short > LEAST ? `${fine(short, unit)} short` : ''
}

const leaning = computed(() => rows.value.some(({ row }) => row.above !== null))

const columns = computed(() => {
  const figure = (key: string, title: string, width: number, text: (row: Row) => string) => ({ key, title, number: true, width, text })
  const unit = workshop.unit
  return [
    { key: 'kind', title: `Fit ledger, ${unit}`, least: 150, text: ({ row }: Row) => `${row.kind}, ${row.fit}` },
    { key: 'opening-in', title: 'opening in', least: 110, text: (row: Row) => row.opening },
    { key: 'insert-of', title: 'insert', least: 110, text: (row: Row) => row.insert },
    figure('opening', 'opening', 66, ({ row }) => fine(row.opening, unit)),
    figure('insert', 'insert', 66, ({ row }) => fine(row.insert, unit)),
    ...(rows.value.some(({ row }) => corners(row)) ? [figure('corners', 'by corners', 86, ({ row }) => corners(row))] : []),
    { ...figure('gap', 'gap', 70, ({ row }) => fine(row.gap, unit)), sorts: ({ row }: Row) => row.gap },
    ...(leaning.value ? [figure('faces', 'above / below', 98, ({ row: { above, below } }) => (above !== null && below !== null ? onFaces({ above, below }, '–') : '–'))] : []),
    ...(props.proved ? [figure('proved', 'proved gap', 98, ({ proved, faces }) => (leaning.value && faces && faces.above !== null ? onFaces(faces, 'not measured') : typeof proved === 'number' ? fine(proved, unit) : 'not measured'))] : []),
    ...(measured.value.some((gap) => gap !== null) ? [figure('measured', 'measured', leaning.value ? 98 : 84, ({ measured: gaps }) => onFaces(gaps, '–'))] : []),
    figure('tightest', 'tightest', 70, ({ row }) => fine(row.tightest, unit)),
    figure('opening-thick', 'opening thick', 90, ({ row }) => fine(row.opening_thickness, unit)),
    figure('insert-thick', 'insert thick', 90, ({ row }) => (row.hardware ? '–' : fine(row.insert_thickness, unit))),
  ]
})

function mark({ row, proved }: Row): string {
  return [row.joint === picked.jointId ? 'chosen' : '', off(proved, row.gap) ? 'wrong' : ''].join(' ').trim()
}
</script>

<template>
  <RowsTable ref="ledger" label="Fit ledger" tall :rows="rows" :columns="columns" :mark="mark" :choose="({ row }) => picked.pick({ jointId: row.joint })" empty="No joints yet: the ledger lists every opening and what goes into it." />
</template>

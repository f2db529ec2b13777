<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas, Size } from '../../api/client'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import type { Refusal } from '../../state/refusal'
import KnotFields from '../KnotFields.vue'
import type { ShapeProps } from './more'

/** The points of a curve in mm, from the lower left corner of its box. */
const props = defineProps<ShapeProps<Schemas['Curve']>>()
const size = computed(() => ({ x: props.value('width') ?? 1, y: props.value('height') ?? 1 }))
const knots = computed(() => props.hole.knots.map((k) => ({ x: k.x * size.value.x, y: k.y * size.value.y, corner: k.corner })))

function save(moved: { x: number; y: number; corner: boolean }[]): Promise<Refusal | null> {
  return props.save({ knots: moved.map((k) => ({ x: k.x / size.value.x, y: k.y / size.value.y, corner: k.corner })) })
}

const picked = useChoice()
const edits = useEdits()
/** A curve within a combined shape is placed by plain numbers. */
const alone = computed(() => picked.cutout?.hole.kind === 'curve')

function place(index: number, way: 'x' | 'y', to: Size): Promise<Refusal | null> {
  return edits.edit({ do: 'place knot', part: picked.partId ?? '', id: picked.cutoutId ?? '', index, way, to })
}
</script>

<template>
  <KnotFields :knots="knots" :save="save" :place="alone ? place : undefined" />
</template>

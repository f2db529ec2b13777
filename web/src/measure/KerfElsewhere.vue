<script setup lang="ts">
import { computed } from 'vue'

import type { Known, Size } from '../api/client'
import SizeField from '../kit/SizeField.vue'
import WayField from '../kit/WayField.vue'
import { plain } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'

/** How wide the cut is otherwise than the kerf says: along y, or on the lower face; typed, or of a plug that is read so. */
const props = defineProps<{ stock: string; known: Known; field: 'up' | 'below'; width: number; says: { known: string; plug: string; typed: string; hole: string; over: string } }>()
const edits = useEdits()

type Kerf = NonNullable<Known['up']>
const now = computed(() => props.known[props.field] ?? null)
const mm = (value: number): Size => ({ text: plain(value, 'mm'), unit: 'mm' })

function put(kerf: Kerf): Promise<Refusal | null> {
  return edits.editKnown(props.stock, () => ({ [props.field]: kerf }))
}

/** Changes one measure of the plug and its hole. */
function saveCut(change: Partial<Record<'hole' | 'plug', Size>>): Promise<Refusal | null> {
  return edits.editKnown(props.stock, (known) => ({ [props.field]: { ...known[props.field], ...change } as Kerf }))
}

/** As wide as it is now to begin with, to be overwritten by what is read. */
function setWay(how: string): void {
  if (how === 'typed') void edits.told(put({ how: 'typed', width: mm(props.width) }))
  if (how === 'plug') void edits.told(put({ how: 'plug', hole: mm(20 + props.width), plug: mm(20 - props.width) }))
}
</script>

<template>
  <WayField :label="says.known" :value="now?.how ?? ''" :options="['typed', 'plug']" :names="{ typed: 'typed', plug: says.plug }" :save="setWay" />
  <SizeField v-if="now?.how === 'typed'" :label="says.typed" :size="now.width" :save="(typed) => put({ how: 'typed', width: typed })" />
  <template v-if="now?.how === 'plug'">
    <SizeField :label="says.hole" :size="now.hole" :save="(hole) => saveCut({ hole })" />
    <SizeField :label="says.over" :size="now.plug" :save="(plug) => saveCut({ plug })" />
  </template>
</template>

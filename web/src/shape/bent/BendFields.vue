<script setup lang="ts">
import { computed } from 'vue'

import type { Bend, Schemas, Size } from '../../api/client'
import ActButton from '../../kit/ActButton.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import TickField from '../../kit/TickField.vue'
import { withUnit } from '../../kit/units'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import { refusal, type Refusal } from '../../state/refusal'
import { useWorkshop } from '../../state/workshop'
import { useBends } from './bends'

/** What is typed of one bend: where it lies, how far it is turned, and what it takes; and what follows from that. */
const props = defineProps<{ bend: Bend; shown?: Schemas['BendShown'] }>()
const workshop = useWorkshop()
const picked = useChoice()
const bends = useBends()
const edits = useEdits()

const MEASURED: Bend['measured'][] = ['outside', 'inside', 'flat']
const WAYS: Bend['way'][] = ['up', 'down']
const RUNS = ['up', 'down', 'right', 'left'] as const
const FROM = { up: 'bottom edge', down: 'top edge', right: 'left edge', left: 'right edge' }
const RELIEFS = ['square', 'round', 'none'] as const

const facts = computed(() => workshop.shown?.stocks[picked.part?.stock ?? '']?.bending)
const none: Size = { text: '', unit: 'mm' }
const things = computed(() => {
  const others = picked.partShown?.bends.filter((b) => !b.flange && b.id !== props.bend.id) ?? []
  const shapes = picked.partShown?.cutouts ?? []
  return { '': 'the edge', ...Object.fromEntries([...others, ...shapes].map((thing) => [thing.id, thing.called])) } as Record<string, string>
})

function put(change: Partial<Bend>): Promise<Refusal | null> {
  return bends.type(props.bend, change)
}

function now(change: Partial<Bend>): void {
  void edits.told(put(change))
}

function value(field: string): number | undefined {
  return workshop.shown?.values[`parts/${picked.partId}/bends/${props.bend.id}/${field}`]
}

/** Nothing typed is the stock's own. */
function putRadius(radius: Size): Promise<Refusal | null> {
  return put({ radius: radius.text ? radius : null })
}

function putK(text: string): void {
  const k = Number(text.replace(',', '.'))
  if (!text.trim()) now({ k: null })
  else if (k > 0 && k < 1) now({ k })
  else workshop.say(refusal(`K is the share of the thickness at which the neutral line lies, between 0 and 1; “${text}” is not.`).message)
}
</script>

<template>
  <div class="stack one">
    <p v-if="bend.starter" class="explain">It follows from the numbers of its starter.</p>
    <PlainField label="Name of the bend" :value="bend.name" :save="(name) => now({ name })" />
    <template v-if="bend.kind === 'line'">
      <ChoiceField label="It lies" :value="bend.runs" :options="RUNS" :names="{ up: 'above', down: 'below', right: 'right of', left: 'left of' }" :save="(runs) => now({ runs })" />
      <ChoiceField :label="bend.of ? 'which is' : `the ${FROM[bend.runs]}, or`" :value="bend.of" :options="Object.keys(things)" :names="things" :save="(of) => now({ of })" />
    </template>
    <SizeField :label="bend.kind === 'flange' ? 'Length of the flange' : 'at a distance of'" :size="bend.length" :value="value('length')" :save="(length) => put({ length })" />
    <ChoiceField label="Measured" :value="bend.measured" :options="MEASURED" :names="{ outside: 'outside, once bent', inside: 'inside, once bent', flat: 'on the flat sheet' }" :save="(measured) => now({ measured })" />
    <SizeField label="Turned from flat, degrees" :size="bend.angle" bare :save="(angle) => put({ angle })" />
    <p v-if="shown" class="follows">The angle between its legs is {{ Number((180 - shown.angle).toFixed(2)) }}°.</p>
    <ChoiceField label="Bent" :value="bend.way" :options="WAYS" :names="{ up: 'up, to the drawn face', down: 'down, to the back' }" :save="(way) => now({ way })" />
    <SizeField :label="`Inside radius (the stock's: ${facts ? withUnit(facts.radius, workshop.unit) : ''})`" :size="bend.radius ?? none" :value="value('radius')" :save="putRadius" />
    <PlainField label="K factor (the stock's unless typed)" :value="bend.k === null ? '' : String(bend.k)" :save="putK" />
    <SizeField v-if="bend.kind === 'line'" label="Turned on the sheet, degrees" :size="bend.turn" bare :save="(turn) => put({ turn })" />
    <template v-else>
      <SizeField label="Free at its start" :size="bend.start" :value="value('start')" :save="(start) => put({ start })" />
      <SizeField label="Free at its end" :size="bend.end" :value="value('end')" :save="(end) => put({ end })" />
      <ChoiceField label="Relief at its ends" :value="bend.relief" :options="RELIEFS" :save="(relief) => now({ relief })" />
      <SizeField v-if="bend.relief !== 'none'" label="Width of the relief" :size="bend.relief_width" :value="value('relief_width')" :save="(relief_width) => put({ relief_width })" />
      <TickField :value="bend.mitre" :save="(mitre) => now({ mitre })">Mitred to its neighbours at corners</TickField>
      <SizeField v-if="bend.mitre" label="Gap at the mitre" :size="bend.gap" :value="value('gap')" :save="(gap) => put({ gap })" />
    </template>
    <p v-if="shown" class="follows">
      Inside radius {{ withUnit(shown.radius, workshop.unit) }}, K {{ shown.k.toFixed(3) }}: the bend takes {{ withUnit(shown.allowance, workshop.unit) }} of the sheet, its deduction is {{ withUnit(shown.deduction, workshop.unit) }}.
      <template v-if="shown.near !== null && shown.far !== null">Legs outside {{ withUnit(shown.near, workshop.unit) }} and {{ withUnit(shown.far, workshop.unit) }}.</template>
    </p>
    <p v-if="!bend.starter"><ActButton @click="bends.remove(bend.id)">Remove this bend</ActButton></p>
  </div>
</template>

<style scoped>
.one { border-left: 2px solid var(--accent); padding-left: 8px; margin-top: 6px; }
.follows { color: var(--soft-ink); font-size: 12px; }
</style>

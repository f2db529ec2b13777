<script setup lang="ts">
import PlainField from '../../kit/PlainField.vue'
import SizeField from '../../kit/SizeField.vue'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import { useWorkshop } from '../../state/workshop'
import { useJoint } from '../edit'
import SideField from './SideField.vue'
import ActButton from '../../kit/ActButton.vue'

const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const { joint, put, nowEnd, putEnd, value, name } = useJoint('cross-lap')

/** Slots spread evenly over the side: the sheet between any two, and beside the outer ones, is equally wide. */
function spread(which: 'a' | 'b'): void {
  if (!joint.value) return
  const { side, slots } = joint.value[which]
  const along = side === 'top' || side === 'bottom' ? 'width' : 'height'
  const share = { text: `${along}/${slots + 1}`, unit: 'mm' }
  nowEnd(which, { at: share, step: share })
}

/** As many slots as the other part has copies; each copy gets one. */
function copies(which: 'a' | 'b'): number {
  const other = joint.value?.[which === 'a' ? 'b' : 'a'].part
  return workshop.document?.parts.find((p) => p.id === other)?.count ?? 1
}

function makeGrid(): void {
  const id = picked.jointId ?? ''
  const slots = { a: copies('a'), b: copies('b') }
  void edits.told(
    edits.editJoint(id, (one) => {
      if (one.kind !== 'cross-lap') return {}
      const end = (which: 'a' | 'b'): typeof one.a => {
        const along = one[which].side === 'top' || one[which].side === 'bottom' ? 'width' : 'height'
        const share = { text: `${along}/${slots[which] + 1}`, unit: 'mm' } as const
        return { ...one[which], slots: slots[which], at: share, step: share }
      }
      return { a: end('a'), b: end('b') }
    }),
  )
}
</script>

<template>
  <template v-if="joint">
    <template v-for="which in ['a', 'b'] as const" :key="which">
      <SideField :label="`${name(joint[which].part)} opens at`" :side="joint[which].side" :save="(side) => nowEnd(which, { side })" />
      <PlainField :label="`Slots in ${name(joint[which].part)}`" :value="joint[which].slots" :most="60" :save="(slots) => nowEnd(which, { slots: Number(slots) })" />
      <SizeField :label="joint[which].slots > 1 ? 'the first at' : 'its slot at'" :size="joint[which].at" :value="value(`${which}.at`)" :save="(at) => putEnd(which, { at })" />
      <p v-if="joint[which].also_at.length">and {{ joint[which].also_at.length }} more, unevenly spaced, that its starter places.</p>
      <template v-if="joint[which].slots > 1">
        <SizeField label="step" :size="joint[which].step" :value="value(`${which}.step`)" :save="(step) => putEnd(which, { step })" />
        <p><ActButton @click="spread(which)">Spread the slots of {{ name(joint[which].part) }} evenly</ActButton></p>
      </template>
    </template>
    <p v-if="copies('a') > 1 || copies('b') > 1"><ActButton @click="makeGrid">Make a grid: {{ copies('b') }} × {{ name(joint.a.part) }}, {{ copies('a') }} × {{ name(joint.b.part) }}</ActButton></p>
    <SizeField :label="`Share cut from ${name(joint.a.part)}`" :size="joint.share" bare :save="(share) => put({ share })" />
    <SizeField label="Seating allowance" :size="joint.seating" :value="value('seating')" :save="(seating) => put({ seating })" />
    <SizeField label="Angle (degrees)" :size="joint.angle" bare :save="(angle) => put({ angle })" />
  </template>
</template>

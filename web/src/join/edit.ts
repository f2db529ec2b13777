import { computed, type ComputedRef } from 'vue'

import type { Joint, JointChange, Side } from '../api/client'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

export const SIDES: Side[] = ['bottom', 'right', 'top', 'left']

/** The chosen joint, if it is of one kind, and ways to change it. */
export function useJoint<K extends Joint['kind']>(kind: K): { joint: ComputedRef<Extract<Joint, { kind: K }> | null> } & Edits {
  const picked = useChoice()
  const joint = computed(() => (picked.joint?.kind === kind ? (picked.joint as Extract<Joint, { kind: K }>) : null))
  return { joint, ...useJointEdits() }
}

interface Edits {
  put: (change: JointChange) => Promise<Refusal | null>
  now: (change: JointChange) => void
  putEnd: (which: 'a' | 'b', change: Record<string, unknown>) => Promise<Refusal | null>
  nowEnd: (which: 'a' | 'b', change: Record<string, unknown>) => void
  value: (field: string) => number | undefined
  name: (part: string) => string
}

/** Edits of whatever joint is chosen. ``put`` is for fields that show a refusal beside themselves. */
export function useJointEdits(): Edits {
  const workshop = useWorkshop()
  const picked = useChoice()
  const edits = useEdits()
  const put = (change: JointChange): Promise<Refusal | null> => edits.editJoint(picked.jointId ?? '', () => change)
  const putEnd = (which: 'a' | 'b', change: Record<string, unknown>): Promise<Refusal | null> =>
    edits.editJoint(picked.jointId ?? '', (one) => ({ [which]: { ...one[which], ...change } }) as JointChange)
  return {
    put,
    putEnd,
    now: (change) => void edits.told(put(change)),
    nowEnd: (which, change) => void edits.told(putEnd(which, change)),
    value: (field) => workshop.shown?.values[`joints/${picked.jointId}/${field}`],
    name: (part) => workshop.document?.parts.find((p) => p.id === part)?.name ?? part,
  }
}

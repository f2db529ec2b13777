import type { Command, Document, Finding, Size } from '../api/client'

/** The edit that a finding offers: one size or choice of the thing it is about, set to the value it names. */
export function mendCommand(document: Document, finding: Finding): Command | null {
  const { mend, place } = finding
  if (!mend) return null
  const size: Size = { text: mend.value, unit: 'mm' }
  if (place.kind === 'joint') return mendJoint(document, place.id, mend.field, size)
  const part = document.parts.find((p) => p.id === place.part)
  if (!part) return null
  if (place.kind === 'cut-out') {
    const cutouts = part.cutouts.map((cut) =>
      cut.id === place.id ? { ...cut, hole: { ...cut.hole, [mend.field]: size } as typeof cut.hole } : cut,
    )
    return { do: 'put part', part: { ...part, cutouts } }
  }
  const corner = mend.field.split('/')[1]
  const corners = part.shape.corners.map((cut) => (cut.corner === corner ? { ...cut, size } : cut))
  return { do: 'put part', part: { ...part, shape: { ...part.shape, corners } } }
}

function mendJoint(document: Document, id: string, field: string, size: Size): Command | null {
  const joint = document.joints.find((j) => j.id === id)
  if (!joint) return null
  if (field === 'relief') return { do: 'put joint', joint: { ...joint, relief: size.text } as typeof joint }
  if (field === 'starts' && joint.kind === 'finger') return { do: 'put joint', joint: { ...joint, starts: size.text as 'a' | 'b' } }
  if (field === 'b.side' && joint.kind === 'cross-lap') {
    const side = size.text as typeof joint.b.side
    return { do: 'put joint', joint: { ...joint, b: { ...joint.b, side } } }
  }
  return { do: 'put joint', joint: { ...joint, [field]: size } as typeof joint }
}

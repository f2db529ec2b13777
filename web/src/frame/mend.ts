import type { Command, Document, Finding, Joint, Part, Size, Stock } from '../api/client'

/** The edit that a finding offers: one size or choice of the thing it is about, set to the value it names. */
export function mendCommand(document: Document, finding: Finding, library: Stock[]): Command | null {
  const { mend, place } = finding
  if (!mend) return null
  const size: Size = { text: mend.value, unit: 'mm' }
  if (place.kind === 'joint') return mendJoint(document, place.id, mend.field, size)
  if (place.kind === 'stock') return mendStock(document, place.id, library.find((known) => known.name === mend.value))
  const part = document.parts.find((p) => p.id === place.part)
  if (!part) return null
  return { do: 'put part', part: place.kind === 'cut-out' ? mendCutOut(part, place.id, mend.field, size) : mendPart(part, mend.field, size) }
}

function mendCutOut(part: Part, id: string, field: string, size: Size): Part {
  const cutouts = part.cutouts.map((cut) => {
    if (cut.id !== id) return cut
    return field === 'depth' ? { ...cut, depth: size } : { ...cut, hole: { ...cut.hole, [field]: size } as typeof cut.hole }
  })
  return { ...part, cutouts }
}

function mendPart(part: Part, field: string, size: Size): Part {
  if (field === 'count') return { ...part, count: Number(size.text) }
  if (field === 'face') return { ...part, face: size.text as Part['face'] }
  if (field === 'width' || field === 'height') return { ...part, shape: { ...part.shape, [field]: size } }
  if (part.shape.kind !== 'rectangle') return part
  const corner = field.split('/')[1]
  const corners = part.shape.corners.map((cut) => (cut.corner === corner ? { ...cut, size } : cut))
  return { ...part, shape: { ...part.shape, corners } }
}

/** The stock as it was measured last, on whatever project that was. */
function mendStock(document: Document, id: string, known: Stock | undefined): Command | null {
  const stock = document.stocks.find((s) => s.id === id)
  if (!stock || !known) return null
  const { kerf, clearances, machine, history } = known
  return { do: 'put stock', stock: { ...stock, kerf, clearances, machine, history } }
}

function mendJoint(document: Document, id: string, field: string, size: Size): Command | null {
  const joint = document.joints.find((j) => j.id === id)
  if (!joint) return null
  const put = (changed: Joint): Command => ({ do: 'put joint', joint: changed })
  if (['count', 'keys', 'tabs', 'screws'].includes(field)) return put({ ...joint, [field]: Number(size.text) } as Joint)
  if (field === 'relief') return put({ ...joint, relief: size.text } as Joint)
  if (field === 'starts' && joint.kind === 'finger') return put({ ...joint, starts: size.text as 'a' | 'b' })
  if (field === 'b.side' && joint.kind === 'cross-lap') return put({ ...joint, b: { ...joint.b, side: size.text as typeof joint.b.side } })
  return put({ ...joint, [field]: size } as Joint)
}

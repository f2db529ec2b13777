import type { CaptiveNut, CrossLap, Document, FingerJoint, Housing, Joint, PartShown, Side, Size, Splice, TabAndSlot } from '../api/client'
import { typed } from '../fields/units'
import { freeId } from '../parts/fresh'

const zero = { text: '0', unit: 'mm' } as const
const own = { fit: null, starter: '' } as const
const unrelieved = { relief: 'none', cutter: { text: 'kerf', unit: 'mm' }, ...own } as const

export interface End {
  part: string
  side: Side
}

export function newFinger(document: Document, a: End, b: End): FingerJoint {
  const settings = { finger: typed(15, document.unit), count: null, inset_start: zero, inset_end: zero, proud: zero, shift: zero }
  return { kind: 'finger', id: freeId('joint', document.joints), a, b, starts: 'a', reference: 'outside', ...unrelieved, ...settings }
}

/** One key, a third of the edge in size. */
export function newSplice(document: Document, a: End, edge: number, b: End): Splice {
  const settings = { keys: 1, size: typed(edge / 3, document.unit), depth: typed(edge / 4, document.unit), radius: zero }
  return { kind: 'splice', id: freeId('joint', document.joints), a, b, shape: 'dovetail', gap: 'split', ...own, ...settings }
}

/** A line as long as the edge, across the middle of a part's face. */
function middleLine(document: Document, edge: number, on: PartShown): TabAndSlot['b'] {
  const upright = on.height >= on.width
  const x = upright ? on.width / 2 : (on.width - edge) / 2
  const y = upright ? (on.height - edge) / 2 : on.height / 2
  const turn = { text: upright ? '90' : '0', unit: 'mm' } as const
  return { part: on.id, x: typed(x, document.unit), y: typed(y, document.unit), turn, lines: 1, step: typed(30, document.unit), at_x: [] }
}

/** The line of another joint of the same edge on the same face: screws go where the tabs already are. */
function knownLine(document: Document, a: End, on: string): TabAndSlot['b'] | undefined {
  for (const joint of document.joints) {
    if ('x' in joint.b && joint.a.part === a.part && joint.a.side === a.side && joint.b.part === on) return joint.b
  }
  return undefined
}

export function newTabs(document: Document, a: End, edge: number, b: PartShown): TabAndSlot {
  const settings = { tabs: 2, width: typed(edge / 5, document.unit), inset: typed(edge / 8, document.unit), proud: zero, pocket: null }
  const line = knownLine(document, a, b.id) ?? middleLine(document, edge, b)
  return { kind: 'tab-and-slot', id: freeId('joint', document.joints), a, b: line, ...unrelieved, ...settings }
}

/** One screw in the middle of the edge. */
export function newNuts(document: Document, a: End, edge: number, b: PartShown): CaptiveNut {
  const settings = { screw: { text: '16', unit: 'mm' }, screws: 1, inset: typed(edge / 4, document.unit) } as const
  const line = knownLine(document, a, b.id) ?? middleLine(document, edge, b)
  return { kind: 'captive-nut', id: freeId('joint', document.joints), a, b: line, thread: 'M3', ...unrelieved, ...settings }
}

/** An edge butted on a face; it is let into a groove afterwards. */
export function newHousing(document: Document, a: End, edge: number, b: PartShown): Housing {
  const line = knownLine(document, a, b.id) ?? middleLine(document, edge, b)
  return { kind: 'housing', id: freeId('joint', document.joints), a, b: line, groove: null, room: zero, ...unrelieved }
}

export function newCrossLap(document: Document, a: PartShown, b: PartShown): CrossLap {
  const middle = { at: { text: 'width/2', unit: 'mm' as const }, slots: 1, step: typed(30, document.unit), also_at: [] as Size[] }
  return {
    kind: 'cross-lap',
    id: freeId('joint', document.joints),
    a: { part: a.id, side: 'top', ...middle },
    b: { part: b.id, side: 'bottom', ...middle },
    share: { text: '1/2', unit: 'mm' },
    seating: zero,
    angle: { text: '90', unit: 'mm' },
    ...unrelieved,
  }
}

/** The sides that a joint is on. */
export function sidesOf(joint: Joint): End[] {
  return 'side' in joint.b ? [joint.a, joint.b] : [joint.a]
}

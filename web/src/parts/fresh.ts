import type {
  CrossLap, CutOut, Document, FingerJoint, Joint, Part, PartShown, Side, Splice, Stock, TabAndSlot, Unit,
} from '../api/client'
import { typed } from '../fields/units'

const zero = { text: '0', unit: 'mm' } as const
const unrelieved = { relief: 'none', cutter: { text: 'kerf', unit: 'mm' }, fit: null } as const

/** An id that nothing else in `taken` has. */
export function freeId(base: string, taken: { id: string }[]): string {
  const ids = new Set(taken.map((item) => item.id))
  let number = 1
  while (ids.has(`${base}_${number}`)) number++
  return `${base}_${number}`
}

export function newPart(document: Document): Part {
  const id = freeId('part', document.parts)
  return {
    id,
    name: `Part ${id.split('_')[1]}`,
    stock: document.stocks[0]?.id ?? '',
    count: 1,
    shape: { kind: 'rectangle', width: typed(100, document.unit), height: typed(60, document.unit), corners: [] },
    cutouts: [],
    marks: [],
    turns: '90',
  }
}

export function copyOf(part: Part, document: Document): Part {
  return { ...part, id: freeId('part', document.parts), name: `${part.name} copy`.slice(0, 80) }
}

export function newCutOut(kind: CutOut['hole']['kind'], part: Part, unit: Unit): CutOut {
  const hole: CutOut['hole'] =
    kind === 'round'
      ? { kind, diameter: typed(10, unit) }
      : kind === 'obround'
        ? { kind, width: typed(30, unit), height: typed(10, unit) }
        : { kind, width: typed(30, unit), height: typed(20, unit), radius: typed(2, unit) }
  return {
    id: freeId('cut', part.cutouts),
    hole,
    origin: 'middle',
    x: zero,
    y: zero,
    turn: zero,
    repeat: { columns: 1, rows: 1, step_x: typed(20, unit), step_y: typed(20, unit) },
  }
}

export function newFinger(document: Document, a: { part: string; side: Side }, b: { part: string; side: Side }): FingerJoint {
  const id = freeId('joint', document.joints)
  const settings = { finger: typed(15, document.unit), count: null, inset_start: zero, inset_end: zero, proud: zero }
  return { kind: 'finger', id, a, b, starts: 'a', ...unrelieved, ...settings }
}

/** One key, a third of the edge in size. */
export function newSplice(document: Document, a: { part: string; side: Side }, edge: number, b: { part: string; side: Side }): Splice {
  const settings = { keys: 1, size: typed(edge / 3, document.unit), depth: typed(edge / 4, document.unit), radius: zero }
  return { kind: 'splice', id: freeId('joint', document.joints), a, b, shape: 'dovetail', gap: 'split', fit: null, ...settings }
}

/** Tabs along an edge, their slots on a line across the middle of another part's face. */
export function newTabs(document: Document, a: { part: string; side: Side }, edge: number, b: PartShown): TabAndSlot {
  const upright = b.height >= b.width
  const x = upright ? b.width / 2 : (b.width - edge) / 2
  const y = upright ? (b.height - edge) / 2 : b.height / 2
  const turn = { text: upright ? '90' : '0', unit: 'mm' } as const
  const line = { part: b.id, x: typed(x, document.unit), y: typed(y, document.unit), turn, lines: 1, step: typed(30, document.unit) }
  const settings = { tabs: 2, width: typed(edge / 5, document.unit), inset: typed(edge / 8, document.unit), proud: zero }
  return { kind: 'tab-and-slot', id: freeId('joint', document.joints), a, b: line, ...unrelieved, ...settings }
}

/** The sides that a joint is on. */
export function sidesOf(joint: Joint): { part: string; side: Side }[] {
  return joint.kind === 'tab-and-slot' ? [joint.a] : [joint.a, joint.b]
}

export function newCrossLap(document: Document, a: PartShown, b: PartShown): CrossLap {
  const middle = { text: 'width/2', unit: 'mm' } as const
  return {
    kind: 'cross-lap',
    id: freeId('joint', document.joints),
    a: { part: a.id, side: 'top', at: middle },
    b: { part: b.id, side: 'bottom', at: middle },
    share: { text: '1/2', unit: 'mm' },
    seating: { text: '0', unit: 'mm' },
    angle: { text: '90', unit: 'mm' },
    ...unrelieved,
  }
}

export function newStock(document: Document): Stock {
  const id = freeId('stock', document.stocks)
  const mm = (text: string) => ({ text, unit: 'mm' }) as const
  return {
    id,
    name: `Stock ${id.split('_')[1]}`,
    material: 'plywood',
    nominal: mm('3'),
    readings: [],
    grain: 'none',
    sheets: [{ width: mm('600'), height: mm('400') }],
    smallest_web: mm('2'),
    machine: '',
    kerf: { how: 'typed', width: mm('0.2') },
    clearances: { loose: mm('0.3'), sliding: mm('0.2'), glue: mm('0.1'), press: mm('-0.05') },
  }
}

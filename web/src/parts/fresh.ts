import type { CutOut, Document, Mark, Part, Shape, Stock, Unit } from '../api/client'
import { typed } from '../fields/units'

const zero = { text: '0', unit: 'mm' } as const

/** A rounded, leaning outline to begin a curve with; in shares of its width and height. */
const KNOTS = [
  { x: 0, y: 0, corner: true },
  { x: 1, y: 0, corner: true },
  { x: 0.95, y: 0.55, corner: false },
  { x: 0.5, y: 1, corner: false },
  { x: 0.05, y: 0.55, corner: false },
]

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
    rim: { by: zero, corners: 'sharp' },
    cutouts: [],
    marks: [],
    turns: '90',
    face: 'outside',
    starter: '',
  }
}

export function copyOf(part: Part, document: Document): Part {
  return { ...part, starter: '', id: freeId('part', document.parts), name: `${part.name} copy`.slice(0, 80) }
}

/** The shape turned into one of another kind; its width and height stay. */
export function asKind({ width, height }: Shape, kind: Exclude<Shape['kind'], 'brought'>): Shape {
  if (kind === 'curve') return { kind, width, height, knots: KNOTS }
  return kind === 'ellipse' ? { kind, width, height } : { kind, width, height, corners: [] }
}

function newHole(kind: CutOut['hole']['kind'], unit: Unit): CutOut['hole'] {
  const wide = { width: typed(30, unit), height: typed(20, unit) }
  switch (kind) {
    case 'round': return { kind, diameter: typed(10, unit) }
    case 'rectangle': return { kind, ...wide, radius: typed(2, unit) }
    case 'obround': return { kind, width: typed(30, unit), height: typed(10, unit) }
    case 'ellipse': return { kind, ...wide }
    case 'curve': return { kind, ...wide, knots: KNOTS }
    case 'text': return { kind, text: 'TEXT', font: 'stencil', height: typed(12, unit), tracking: zero, align: 'middle', bend: zero, bridges: zero }
  }
}

export function newCutOut(kind: CutOut['hole']['kind'], part: Part, unit: Unit): CutOut {
  return {
    id: freeId('cut', part.cutouts),
    hole: newHole(kind, unit),
    origin: 'middle',
    x: zero,
    y: zero,
    turn: zero,
    mirrored: false,
    does: 'cut out',
    depth: { text: 'thickness/2', unit: 'mm' },
    repeat: { columns: 1, rows: 1, step_x: typed(20, unit), step_y: typed(20, unit) },
    starter: '',
  }
}

/** Scored text in the middle of the part. */
export function newMark(unit: Unit): Mark {
  const middle = { x: { text: 'width/2', unit: 'mm' }, y: { text: 'height/2', unit: 'mm' } } as const
  return { text: 'TEXT', ...middle, height: typed(5, unit), turn: zero, font: 'single line', tracking: zero, align: 'middle', bend: zero, operation: 'score' }
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
    history: [],
  }
}

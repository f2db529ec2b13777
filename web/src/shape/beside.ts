import type { Schemas } from '../api/client'
import type { Box } from '../drawing/view'

export type Side = Schemas['SetGap']['side']

export interface Boxed {
  id: string
  box: Box
}

/** The way from a side of a box to what lies next to it there: a shape, or the edge of the part (no id). */
export interface Gap {
  side: Side
  of: string
  gap: number
  from: [number, number]
  to: [number, number]
}

/** The box round some boxes. */
export function round(boxes: Box[]): Box {
  return {
    left: Math.min(...boxes.map((b) => b.left)),
    bottom: Math.min(...boxes.map((b) => b.bottom)),
    right: Math.max(...boxes.map((b) => b.right)),
    top: Math.max(...boxes.map((b) => b.top)),
  }
}

/** How far it is from each side of a box to its nearest neighbour there, or to the part's edge where there is none. */
export function gapsBeside(box: Box, others: Boxed[], width: number, height: number): Gap[] {
  const level = others.filter(({ box: b }) => b.bottom < box.top && b.top > box.bottom)
  const above = others.filter(({ box: b }) => b.left < box.right && b.right > box.left)
  const y = (box.bottom + box.top) / 2
  const x = (box.left + box.right) / 2
  const left = nearest(level.map((o) => ({ of: o.id, at: o.box.right })).filter((o) => o.at <= box.left), box.left, 0)
  const right = nearest(level.map((o) => ({ of: o.id, at: o.box.left })).filter((o) => o.at >= box.right), box.right, width)
  const bottom = nearest(above.map((o) => ({ of: o.id, at: o.box.top })).filter((o) => o.at <= box.bottom), box.bottom, 0)
  const top = nearest(above.map((o) => ({ of: o.id, at: o.box.bottom })).filter((o) => o.at >= box.top), box.top, height)
  return [
    { side: 'left', of: left.of, gap: box.left - left.at, from: [left.at, y], to: [box.left, y] },
    { side: 'right', of: right.of, gap: right.at - box.right, from: [box.right, y], to: [right.at, y] },
    { side: 'bottom', of: bottom.of, gap: box.bottom - bottom.at, from: [x, bottom.at], to: [x, box.bottom] },
    { side: 'top', of: top.of, gap: top.at - box.top, from: [x, box.top], to: [x, top.at] },
  ]
}

function nearest(found: { of: string; at: number }[], side: number, edge: number): { of: string; at: number } {
  return found.reduce((best, one) => (Math.abs(one.at - side) < Math.abs(best.at - side) ? one : best), { of: '', at: edge })
}

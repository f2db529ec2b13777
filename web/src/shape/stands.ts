import type { Nine } from '../api/client'
import type { Spot } from '../drawing/spot'
import type { Boxed } from './beside'

/** What a shape that is put somewhere stands from, across and up: a side of the part, its middle, or another shape's. */
export interface Stands {
  origin: Nine
  x_of: string
  y_of: string
  across: Way
  up: Way
}

/** From a line of the part or of a shape, at a place (mm), so far. */
export interface Way {
  from: 'low' | 'middle' | 'high'
  of: string
  at: number
  far: number
}

/** So near (mm) two things are in line: what is drawn to a middle lies on it. */
const IN_LINE = 1e-6

/** What is nearest: in line with the part's middle or that of another shape, else the nearer side of the part. */
export function standsAt(middle: Spot, part: { width: number; height: number }, others: readonly Boxed[]): Stands {
  const boxes = others.map(({ id, box }) => ({ id, x: (box.left + box.right) / 2, y: (box.bottom + box.top) / 2 }))
  const across = way(middle.x, part.width, boxes.map(({ id, x, y }) => ({ id, at: x, apart: Math.abs(y - middle.y) })))
  const up = way(middle.y, part.height, boxes.map(({ id, x, y }) => ({ id, at: y, apart: Math.abs(x - middle.x) })))
  return { origin: nine(across.from, up.from), x_of: across.of, y_of: up.of, across, up }
}

function way(place: number, length: number, others: readonly { id: string; at: number; apart: number }[]): Way {
  if (Math.abs(place - length / 2) < IN_LINE) return { from: 'middle', of: '', at: length / 2, far: 0 }
  const [nearest] = others.filter(({ at }) => Math.abs(place - at) < IN_LINE).sort((a, b) => a.apart - b.apart)
  if (nearest) return { from: 'middle', of: nearest.id, at: nearest.at, far: 0 }
  return place < length / 2 ? { from: 'low', of: '', at: 0, far: place } : { from: 'high', of: '', at: length, far: length - place }
}

function nine(across: Way['from'], up: Way['from']): Nine {
  const words = [{ low: 'bottom', middle: '', high: 'top' }[up], { low: 'left', middle: '', high: 'right' }[across]]
  return (words.filter(Boolean).join(' ') || 'middle') as Nine
}

/** A place on a line that is a whole number of steps from the nearer end of it. */
export function roundedFrom(place: number, length: number, step: number): number {
  return place < length / 2 ? Math.round(place / step) * step : length - Math.round((length - place) / step) * step
}

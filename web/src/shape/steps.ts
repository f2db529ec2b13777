import type { Unit } from '../api/client'
import { INCH } from '../api/tables'

/** What a drag is rounded to (mm) where nothing draws it elsewhere, from how many px to the mm on. */
const STEPS: Record<Unit, readonly (readonly [number, number])[]> = {
  mm: [[40, 0.1], [8, 0.5], [0, 1]],
  in: [[40, INCH / 64], [12, INCH / 32], [0, INCH / 16]],
}

/** The step (mm) of a drag at a scale (px to the mm): as fine as a hand can tell there. */
export function stepAt(scale: number, unit: Unit): number {
  return STEPS[unit].find(([from]) => scale >= from)?.[1] ?? 1
}

/** A way (mm) that ends on a whole step, of something that begins at a place. */
export function rounded(way: number, begins: number, step: number): number {
  return Math.round((begins + way) / step) * step - begins
}

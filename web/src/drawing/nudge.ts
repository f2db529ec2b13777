import type { Unit } from '../api/client'
import { INCH } from '../api/tables'

const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }

/** How far (mm) an arrow key nudges: 1 mm or 1/16 in; ten times with Shift, a tenth with Alt. Null for other keys. */
export function nudge(event: KeyboardEvent, unit: Unit): { x: number; y: number } | null {
  const way = WAYS[event.key]
  if (!way) return null
  event.preventDefault()
  const step = (unit === 'in' ? INCH / 16 : 1) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
  return { x: way[0] * step, y: way[1] * step }
}

import type { CutOut, CutOutShown, Nine } from '../api/client'
import type { Spot } from '../drawing/spot'
import { HOLES } from './holes'

/** The sizes of a shape that stand on the drawing, by their fields: its width and height, or the one that all grow with. */
export function ownSizes(hole: CutOut['hole']): string[] {
  const { sizes, angles } = HOLES[hole.kind]
  const lengths = Object.keys(sizes).filter((field) => !angles?.includes(field))
  if (lengths.includes('width') && lengths.includes('height')) return ['width', 'height', ...(lengths.includes('radius') ? ['radius'] : [])]
  return lengths.slice(0, 2)
}

/** The corner of its box by which a shape is made larger: the one that is farthest from the point that stays. */
export function grip(point: Nine): { x: -1 | 1; y: -1 | 1 } {
  return { x: point.includes('right') ? -1 : 1, y: point.includes('top') ? -1 : 1 }
}

/** How much wider and higher a box gets whose grip goes so far (mm), while one of its nine points stays. */
export function grown(point: Nine, way: Spot): { width: number; height: number } {
  const { x, y } = grip(point)
  const across = point.includes('left') || point.includes('right') ? 1 : 2
  const up = point.includes('top') || point.includes('bottom') ? 1 : 2
  return { width: x * way.x * across, height: y * way.y * up }
}

/** Its sizes (mm) once its box is so much larger: both sides alike where it has but one size. */
export function drawnSizes(hole: CutOut['hole'], shown: Pick<CutOutShown, 'width' | 'height'>, more: { width: number; height: number }, now: Record<string, number>, step: number): Record<string, number> {
  const whole = (length: number): number => Math.max(step, Math.round(length / step) * step)
  const [first, second] = ownSizes(hole)
  if (first === 'width' && second === 'height') return { width: whole(shown.width + more.width), height: whole(shown.height + more.height) }
  if (!first) return {}
  const by = Math.max((shown.width + more.width) / shown.width, (shown.height + more.height) / shown.height)
  return { [first]: whole((now[first] ?? 0) * by) }
}

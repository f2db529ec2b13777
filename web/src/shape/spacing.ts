import type { CutOut, CutOutShown, Repeat } from '../api/client'
import type { Spot } from '../drawing/spot'

type Twin = CutOut['twin']

/** A step of a repeat: its field, its name, the first place and the one that it leads to. */
export interface Step {
  field: 'step_x' | 'step_y' | 'step'
  name: string
  angle: boolean
  from: Spot
  to: Spot
}

const TWINS: Record<Twin, number> = { none: 1, 'left and right': 2, 'up and down': 2, both: 4 }

/** Which of the repeated places, without their twins in the mirror, the nth of all places is. */
export function placeOf(nth: number, twin: Twin): number {
  return Math.floor(nth / TWINS[twin])
}

/** The number among all places, twins included, of the first of a repeated place. */
export function firstOf(place: number, twin: Twin): number {
  return place * TWINS[twin]
}

/** The steps from the first of the repeated places to those beside it. */
export function stepsOf(repeat: Repeat, twin: Twin, spots: CutOutShown['spots']): Step[] {
  const at = (place: number): Spot | undefined => spots[firstOf(place, twin)]
  const from = at(0)
  const step = (field: Step['field'], name: string, place: number, angle = false): Step[] => {
    const to = at(place)
    return from && to ? [{ field, name, angle, from, to }] : []
  }
  if (repeat.kind === 'grid') return [...(repeat.columns > 1 ? step('step_x', 'Across', 1) : []), ...(repeat.rows > 1 ? step('step_y', 'Up', repeat.columns) : [])]
  if (repeat.count < 2) return []
  return repeat.kind === 'round a point' ? step('step', 'Round', 1, true) : step('step', 'Along', 1)
}

/** How long the steps of a grid become once its place lies there (mm), from what they are now: each to its whole share. */
export function drawnSteps(repeat: Extract<Repeat, { kind: 'grid' }>, place: number, way: Spot, now: { step_x: number; step_y: number }, away: Spot, whole: number): { step_x?: number; step_y?: number } {
  const column = place % repeat.columns
  const row = Math.floor(place / repeat.columns)
  const to = (step: number, gone: number, places: number): number => Math.round((step + gone / places) / whole) * whole
  return { ...(column ? { step_x: to(now.step_x, way.x * away.x, column) } : {}), ...(row ? { step_y: to(now.step_y, way.y * away.y, row) } : {}) }
}

/** The angle (degrees, counter-clockwise) by which a spot is turned about a middle when it goes so far. */
export function turnedBy(middle: Spot, spot: Spot, way: Spot): number {
  const before = Math.atan2(spot.y - middle.y, spot.x - middle.x)
  const after = Math.atan2(spot.y + way.y - middle.y, spot.x + way.x - middle.x)
  const by = ((after - before) * 180) / Math.PI
  return by > 180 ? by - 360 : by <= -180 ? by + 360 : by
}

/** An angle as a hand means it: a multiple of fifteen degrees where one is near, else whole; to a hundredth where it is free. */
export function meant(angle: number, free: boolean): number {
  if (free) return Math.round(angle * 100) / 100
  const square = Math.round(angle / 15) * 15
  return Math.abs(angle - square) <= 3 ? square : Math.round(angle)
}

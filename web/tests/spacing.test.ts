import { describe, expect, it } from 'vitest'

import type { Repeat } from '../src/api/client'
import { drawnSteps, firstOf, meant, placeOf, stepsOf, turnedBy } from '../src/shape/spacing'

const grid = { kind: 'grid', columns: 3, rows: 2 } as Extract<Repeat, { kind: 'grid' }>
const spots = [[0, 0], [10, 0], [20, 0], [0, 5], [10, 5], [20, 5]].map(([x = 0, y = 0]) => ({ x, y, out: false }))
const now = { step_x: 10, step_y: 5 }

describe('the steps of a repeat on the drawing', () => {
  it('lead from the first place to the one beside it and the one above it', () => {
    expect(stepsOf(grid, 'none', spots).map(({ field, from, to }) => [field, from.x, from.y, to.x, to.y])).toEqual([['step_x', 0, 0, 10, 0], ['step_y', 0, 0, 0, 5]])
    expect(stepsOf({ ...grid, rows: 1 }, 'none', spots.slice(0, 3)).map(({ field }) => field)).toEqual(['step_x'])
    expect(stepsOf({ kind: 'round a point', count: 6 } as Repeat, 'none', spots).map(({ field, angle }) => [field, angle])).toEqual([['step', true]])
    expect(stepsOf({ kind: 'along the edge', count: 1 } as Repeat, 'none', spots)).toEqual([])
  })

  it('pass over twins in the mirror', () => {
    const twins = spots.flatMap((spot) => [spot, { ...spot, x: 100 - spot.x }])
    expect(stepsOf(grid, 'left and right', twins).map(({ to }) => [to.x, to.y])).toEqual([[10, 0], [0, 5]])
    expect([placeOf(5, 'none'), placeOf(5, 'up and down'), placeOf(7, 'both'), firstOf(3, 'both')]).toEqual([5, 2, 1, 12])
  })

  it('are each their share of how far a place is dragged, whole, and as they run', () => {
    const right = { x: 1, y: 1 }
    expect(drawnSteps(grid, 2, { x: 8.4, y: 3 }, now, right, 1)).toEqual({ step_x: 14 })
    expect(drawnSteps(grid, 3, { x: 8, y: 3 }, now, right, 0.5)).toEqual({ step_y: 8 })
    expect(drawnSteps(grid, 4, { x: -4, y: 3 }, now, { x: -1, y: -1 }, 1)).toEqual({ step_x: 14, step_y: 2 })
    expect(drawnSteps(grid, 0, { x: 8, y: 3 }, now, right, 1)).toEqual({})
  })
})

describe('an angle that is drawn', () => {
  it('is the turn about a middle, the short way round', () => {
    expect(turnedBy({ x: 0, y: 0 }, { x: 10, y: 0 }, { x: -10, y: 10 })).toBeCloseTo(90)
    expect(turnedBy({ x: 0, y: 0 }, { x: -10, y: 1 }, { x: 0, y: -2 })).toBeCloseTo(11.42, 2)
    expect(turnedBy({ x: 5, y: 5 }, { x: 5, y: 15 }, { x: 10, y: -10 })).toBeCloseTo(-90)
  })

  it('is whole, a multiple of fifteen where that is near, and free with Alt', () => {
    expect([42.1, 41.6, 48, 48.4, -46.2, 7.4, 3.1].map((angle) => meant(angle, false))).toEqual([45, 42, 45, 48, -45, 7, 3])
    expect(meant(44.256, true)).toBe(44.26)
  })
})

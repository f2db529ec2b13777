import { describe, expect, it } from 'vitest'

import { placeAt, workedOf, type Moves } from '../src/prepare/player'

/** A way of 10 mm to where it begins, a line of 20, half a turn of 5 mm counter-clockwise, and a line of another job. */
const MOVES = {
  x: [10, 30, 20, 20],
  y: [0, 0, 0, 40],
  turn: [0, 0, 1, 0],
  centre_x: [0, 0, 25, 0],
  centre_y: [0, 0, 0, 0],
  ends: [1, 3, 5, 9],
  job: [0, 0, 0, 1],
  on: [false, true, true, true],
} as unknown as Moves

describe('the head on its way', () => {
  it('is nowhere before there are moves', () => {
    expect(placeAt(null, 3)).toBeNull()
    expect(placeAt({ ...MOVES, ends: [] }, 3)).toBeNull()
    expect(workedOf(MOVES, null)).toBe('')
  })

  it('begins its first move at the place it starts from, and stays at the last one once it is over', () => {
    expect(placeAt(MOVES, 0)).toMatchObject({ move: 0, share: 0, x: 10, job: 0 })
    expect(placeAt(MOVES, 99)).toMatchObject({ move: 3, share: 1, x: 20, y: 40, job: 1 })
  })

  it.each([
    [1, 0, 10, 0],
    [2, 1, 20, 0],
    [3, 1, 30, 0],
    [3.001, 2, 30, 0],
    [5, 2, 20, 0],
  ])('after %d s is in move %d', (time, move, x, y) => {
    const at = placeAt(MOVES, time)
    expect(at?.move).toBe(move)
    expect(at?.x).toBeCloseTo(x, 1)
    expect(at?.y).toBeCloseTo(y, 1)
  })

  it('goes round an arc on the side that it turns to', () => {
    const half = placeAt(MOVES, 4)
    expect([half?.x, half?.y]).toEqual([expect.closeTo(25, 6), expect.closeTo(5, 6)])
    const other = placeAt({ ...MOVES, turn: [0, 0, -1, 0] }, 4)
    expect(other?.y).toBeCloseTo(-5, 6)
  })

  it('takes a move of no time for done', () => {
    expect(placeAt({ ...MOVES, ends: [0, 0, 0, 0] }, 0)?.share).toBe(1)
  })
})

describe('what has been worked', () => {
  it('is drawn from where the beam went on, with y turned down, and no further than the head is', () => {
    expect(workedOf(MOVES, placeAt(MOVES, 0.5))).toBe('')
    expect(workedOf(MOVES, placeAt(MOVES, 2))).toBe('M10 0L20.00 0.00')
    const path = workedOf(MOVES, placeAt(MOVES, 5))
    expect(path.startsWith('M10 0L30.00 0.00L')).toBe(true)
    // Over the top of its arc, and to its end.
    expect(path).toContain('L25.00 -5.00')
    expect(path).toMatch(/L20\.00 -?0\.00$/)
  })

  it('begins anew with each job', () => {
    expect(workedOf(MOVES, placeAt(MOVES, 7))).toBe('M20 0L20.00 -20.00')
  })
})

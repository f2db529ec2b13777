import { describe, expect, it } from 'vitest'

import type { Box } from '../src/drawing/view'
import { gapsBeside, round } from '../src/shape/beside'
import { snapper } from '../src/shape/snap'
import { roundedFrom, standsAt } from '../src/shape/stands'
import { rounded, stepAt } from '../src/shape/steps'

const box = (left: number, bottom: number, width: number, height: number): Box => ({ left, bottom, right: left + width, top: bottom + height })

const PART = box(0, 0, 200, 100)

describe('a box that is dragged', () => {
  it('is drawn to edges and middles of the part, as near as it is asked', () => {
    const snap = snapper(box(20, 20, 10, 10), [], PART)
    // Its middle is at 25: 75 further on is the middle of the part.
    expect(snap(74.2, 0, 1).x).toBe(75)
    expect(snap(73.8, 0, 1)).toMatchObject({ x: 73.8, drawn: [] })
    expect(snap(-19.5, -19.6, 1)).toMatchObject({ x: -20, y: -20 })
  })

  it('is drawn to the sides of what lies round it, and says from where to where', () => {
    const snap = snapper(box(20, 20, 10, 10), [box(60, 60, 30, 20)], PART)
    const { x, drawn } = snap(40.3, 7, 1)
    expect(x).toBe(40)
    expect(drawn).toEqual([{ at: 60, from: 20, to: 80, gaps: [], across: true }])
  })

  it('takes the nearer of two stops', () => {
    const snap = snapper(box(0, 0, 10, 10), [box(50, 0, 1, 10)], box(-500, -500, 2000, 2000))
    expect(snap(50.4, 0, 2).x).toBe(50)
    expect(snap(50.6, 0, 2).x).toBe(51)
  })

  it('stops where the gaps to both sides are equal, and where the next gap is as the one before', () => {
    const row = [box(20, 20, 20, 20), box(80, 20, 20, 20)]
    const snap = snapper(box(140, 20, 10, 20), row, box(-1000, -1000, 5000, 5000))
    // Between them are 40 mm, of which it takes 10: 15 on either side.
    const middle = snap(-85.2, 0, 1)
    expect(middle.x).toBe(-85)
    expect(middle.drawn[0]?.gaps).toEqual([[40, 55], [65, 80]])
    // Behind the second with 40 mm again.
    expect(snap(0.4, 0, 1)).toMatchObject({ x: 0, drawn: [{ gaps: [[40, 80], [100, 140]] }, { across: false }] })
    // Before the first with 40 mm.
    expect(snap(-169.8, 0, 1).x).toBe(-170)
  })

  it('sees no gaps in what lies above or below it', () => {
    const row = [box(20, 60, 20, 20), box(80, 60, 20, 20)]
    const snap = snapper(box(140, 20, 10, 20), row, box(-1000, -1000, 5000, 5000))
    expect(snap(-85.2, 3, 1).drawn).toEqual([])
  })
})

describe('a way that nothing draws elsewhere', () => {
  it('is rounded as finely as a hand can tell at the scale', () => {
    expect([0.5, 7.9, 8, 39, 40].map((scale) => stepAt(scale, 'mm'))).toEqual([1, 1, 0.5, 0.5, 0.1])
    expect([11, 12, 40].map((scale) => 25.4 / stepAt(scale, 'in'))).toEqual([16, 32, 64])
  })

  it('ends on a whole step from where the thing is measured', () => {
    // From 12.3 some 7.1 on: it comes to lie at 19, not at 19.4.
    expect(rounded(7.1, 12.3, 1)).toBeCloseTo(6.7)
    expect(rounded(7.3, 12.3, 0.5)).toBeCloseTo(7.2)
    expect(rounded(-0.4, 0, 1) + 0).toBe(0)
    expect(rounded(-3.6, 0, 1)).toBe(-4)
  })
})

describe('the ways to what lies beside', () => {
  it('end at the nearest neighbour on each side, or at the edge of the part', () => {
    const others = [
      { id: 'near', box: box(60, 40, 20, 20) },
      { id: 'far', box: box(100, 40, 20, 20) },
      { id: 'above', box: box(20, 80, 20, 10) },
    ]
    const gaps = Object.fromEntries(gapsBeside(box(20, 40, 20, 20), others, 200, 100).map((gap) => [gap.side, gap]))
    expect(gaps.right).toMatchObject({ of: 'near', gap: 20, from: [40, 50], to: [60, 50] })
    expect(gaps.left).toMatchObject({ of: '', gap: 20 })
    expect(gaps.top).toMatchObject({ of: 'above', gap: 20 })
    expect(gaps.bottom).toMatchObject({ of: '', gap: 40 })
  })

  it('leave out what overlaps, and what only touches in height', () => {
    const others = [{ id: 'over', box: box(30, 45, 20, 20) }, { id: 'touching', box: box(60, 60, 20, 20) }]
    const [left, right] = gapsBeside(box(20, 40, 20, 20), others, 200, 100)
    expect([left?.of, right?.of, right?.gap]).toEqual(['', '', 160])
  })

  it('are measured from the box round all that is chosen', () => {
    expect(round([box(10, 20, 5, 5), box(40, 0, 10, 10)])).toEqual({ left: 10, bottom: 0, right: 50, top: 25 })
  })
})

describe('a shape that is put somewhere', () => {
  const part = { width: 200, height: 101 }
  const others = [{ id: 'far', box: box(40, 0, 20, 10) }, { id: 'near', box: box(40, 60, 20, 10) }]

  it.each([
    [{ x: 30, y: 20 }, 'bottom left', 30, 20],
    [{ x: 199.5, y: 100 }, 'top right', 0.5, 1],
    [{ x: 100, y: 20 }, 'bottom', 0, 20],
    [{ x: 99.99, y: 50.5 }, 'left', 99.99, 0],
    [{ x: 100, y: 50.5 }, 'middle', 0, 0],
  ])('at %o stands from the %s', (middle, origin, across, up) => {
    const told = standsAt(middle, part, [])
    expect(told.origin).toBe(origin)
    expect([told.across.far, told.up.far]).toEqual([expect.closeTo(across), expect.closeTo(up)])
  })

  it('stands from the nearer of the shapes that it is in line with, and from the part before them', () => {
    expect(standsAt({ x: 50, y: 80 }, part, others)).toMatchObject({ origin: 'top', x_of: 'near', y_of: '' })
    expect(standsAt({ x: 50.001, y: 80 }, part, others)).toMatchObject({ origin: 'top left', x_of: '', y_of: '' })
    expect(standsAt({ x: 150, y: 5 }, part, others)).toMatchObject({ origin: 'right', x_of: '', y_of: 'far' })
    expect(standsAt({ x: 50, y: 80 }, { width: 100, height: 101 }, others)).toMatchObject({ origin: 'top', x_of: '' })
  })

  it('goes in whole steps from the nearer side', () => {
    expect([roundedFrom(13.4, 229.7, 1), roundedFrom(220, 229.7, 1), roundedFrom(13.4, 229.7, 0.5)]).toEqual([13, expect.closeTo(219.7), 13.5])
  })
})

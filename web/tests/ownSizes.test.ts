import { describe, expect, it } from 'vitest'

import type { CutOut } from '../src/api/client'
import { drawnSizes, grip, grown, ownSizes } from '../src/shape/ownSizes'

const hole = (kind: string): CutOut['hole'] => ({ kind }) as CutOut['hole']

describe('the sizes of a shape on the drawing', () => {
  it.each([['rectangle', ['width', 'height', 'radius']], ['ellipse', ['width', 'height']], ['round', ['diameter']], ['sector', ['diameter', 'inner']], ['text', ['height']], ['points', []]])('of %s are %s', (kind, sizes) => {
    expect(ownSizes(hole(kind))).toEqual(sizes)
  })

  it('are drawn by the corner that is farthest from the point that stays', () => {
    expect(grip('middle')).toEqual({ x: 1, y: 1 })
    expect(grip('top right')).toEqual({ x: -1, y: -1 })
    expect(grip('right')).toEqual({ x: -1, y: 1 })
  })

  it('grow twice as far where the middle stays as where a side does', () => {
    expect(grown('middle', { x: 5, y: -2 })).toEqual({ width: 10, height: -4 })
    expect(grown('bottom left', { x: 5, y: -2 })).toEqual({ width: 5, height: -2 })
    expect(grown('top right', { x: -5, y: -2 })).toEqual({ width: 5, height: 2 })
  })

  it('come to whole steps, and to no less than one', () => {
    const shown = { width: 30, height: 20 }
    expect(drawnSizes(hole('rectangle'), shown, { width: 4.4, height: -30 }, {}, 1)).toEqual({ width: 34, height: 1 })
    expect(drawnSizes(hole('round'), { width: 10, height: 10 }, { width: 2.3, height: 1 }, { diameter: 10 }, 0.5)).toEqual({ diameter: 12.5 })
    expect(drawnSizes(hole('polygon'), { width: 23.09, height: 20 }, { width: 0, height: 10 }, { width: 20 }, 1)).toEqual({ width: 30 })
    expect(drawnSizes(hole('points'), shown, { width: 5, height: 5 }, {}, 1)).toEqual({})
  })
})

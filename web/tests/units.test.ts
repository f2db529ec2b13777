import { describe, expect, it } from 'vitest'

import { bareMillimetres, fine, isBare, longWay, plain, stepped, typed, withUnit } from '../src/kit/units'

describe('sizes on the screen', () => {
  it('have no needless zeros, and in inches one place more where they are small', () => {
    expect([plain(3.07, 'mm'), plain(240, 'mm'), plain(-0.001, 'mm')]).toEqual(['3.07', '240', '0'])
    // The inch is 25.4 mm exactly (international yard and pound agreement, 1959).
    expect([plain(25.4, 'in'), plain(3.07, 'in'), plain(1, 'in')]).toEqual(['1', '0.121', '0.0394'])
    expect(withUnit(25.4, 'in')).toBe('1 in')
  })

  it('keep their places in columns', () => {
    expect([fine(0.1, 'mm'), fine(2.54, 'in')]).toEqual(['0.100', '0.1000'])
  })

  it('are the same when they are typed again', () => {
    for (const unit of ['mm', 'in'] as const) {
      for (const mm of [0, 0.16, 3.07, 25.4, 609.6]) expect(bareMillimetres(typed(mm, unit))).toBeCloseTo(mm, 1)
    }
  })

  it('are bare only where they are a number alone', () => {
    expect(['3.07', ' -2,5 ', '3/16 in', '2*thickness', ''].map(isBare)).toEqual([true, true, false, false, false])
  })
  it('go on by their last place, written as they were', () => {
    expect([stepped('13.5', 2), stepped('40', -1), stepped(' 0,95', 10), stepped('-1', 1), stepped('2.00', 1)]).toEqual(['13.7', '39', '1,05', '0', '2.01'])
  })

  it('tells a long way in metres or feet, and a short one as any length', () => {
    expect([8.05, 9999.99, 10_000, 58_982.36].map((mm) => longWay(mm, 'mm'))).toEqual(['8.05 mm', '9999.99 mm', '10.0 m', '59.0 m'])
    expect([25.4, 58_982.36].map((mm) => longWay(mm, 'in'))).toEqual(['1 in', '193.5 ft'])
  })
})

import { effectScope, ref } from 'vue'
import { describe, expect, it } from 'vitest'

import { useView, type Box, type View } from '../src/drawing/view'

const BOX: Box = { left: 0, bottom: 0, right: 100, top: 50 }

/** A view of 672 x 416 px, in which 100 x 50 mm have room at 4 px to the mm. */
function view(box: Box = BOX, most?: number): View {
  const made = effectScope().run(() => useView(ref(null), () => box, { x: 136, y: 58 }, most))
  if (!made) throw new Error('no view')
  made.width.value = 672
  made.height.value = 416
  return made
}

describe('a drawing on the screen', () => {
  it('is fitted with room for its sizes, in the middle, y upwards', () => {
    const { scale, toScreen } = view()
    expect(scale.value).toBe(4)
    expect(toScreen(50, 25)).toEqual({ x: 336, y: 208 })
    expect(toScreen(0, 50)).toEqual({ x: 136, y: 108 })
  })

  it('of a small part is drawn no larger than is good, and of nothing at all as something', () => {
    expect(view({ left: 0, bottom: 0, right: 1, top: 1 }).scale.value).toBe(12)
    expect(view({ left: 0, bottom: 0, right: 1, top: 1 }, 40).scale.value).toBe(40)
    expect(view({ left: 5, bottom: 5, right: 5, top: 5 }).scale.value).toBe(12)
    expect(view({ left: 0, bottom: 0, right: 1e9, top: 1 }).scale.value).toBe(0.01)
  })

  it('is enlarged where the pointer is: what lies there stays there', () => {
    const { scale, toDrawing, toScreen, zoomAt } = view()
    const spot = { x: 200, y: 300 }
    const before = toDrawing(spot)
    zoomAt(spot, 2.5)
    expect(scale.value).toBe(10)
    expect(toScreen(before.x, before.y)).toEqual({ x: expect.closeTo(200, 9), y: expect.closeTo(300, 9) })
  })

  it('is enlarged and made small within bounds, and fitted again', () => {
    const { scale, zoomAt, fit, toScreen } = view()
    zoomAt({ x: 0, y: 0 }, 1000)
    expect(scale.value).toBe(240)
    zoomAt({ x: 0, y: 0 }, 1e-6)
    expect(scale.value).toBeCloseTo(0.8)
    fit()
    expect([scale.value, toScreen(50, 25).x]).toEqual([4, 336])
  })

  it('tells a place of the screen in mm and back', () => {
    const { toDrawing, toScreen } = view()
    const { x, y } = toDrawing(toScreen(12.34, 43.21))
    expect([x, y]).toEqual([expect.closeTo(12.34, 9), expect.closeTo(43.21, 9)])
  })
})

import { describe, expect, it } from 'vitest'

import { nudge } from '../src/drawing/nudge'

function key(name: string, more: Partial<KeyboardEvent> = {}): KeyboardEvent {
  return { key: name, shiftKey: false, altKey: false, preventDefault: () => undefined, ...more } as KeyboardEvent
}

describe('arrow keys', () => {
  it('nudge by 1 mm or a sixteenth of an inch, ten times with Shift, a tenth with Alt', () => {
    expect(nudge(key('ArrowLeft'), 'mm')).toEqual({ x: -1, y: 0 })
    expect(nudge(key('ArrowUp', { shiftKey: true }), 'mm')).toEqual({ x: 0, y: 10 })
    expect(nudge(key('ArrowRight', { altKey: true }), 'in')?.x).toBeCloseTo(25.4 / 160)
    expect(nudge(key('a'), 'mm')).toBeNull()
  })
})

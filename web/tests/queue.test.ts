import { describe, expect, it } from 'vitest'

import { freeId } from '../src/state/fresh'
import { Queue } from '../src/state/queue'
import { refusalOf } from '../src/state/refusal'

/** Work that ends when it is told to. */
function work(): { run: () => Promise<string>; end: (answer: string) => void; fail: () => void } {
  let end: (answer: string) => void = () => undefined
  let fail: () => void = () => undefined
  const promise = new Promise<string>((resolve, reject) => { end = resolve; fail = () => reject(new Error('no')) })
  return { run: () => promise, end, fail }
}

describe('the queue of edits', () => {
  it('begins nothing before the one ahead has ended, and goes on when that failed', async () => {
    const queue = new Queue()
    const begun: number[] = []
    const works = [work(), work(), work()]
    const answers = works.map(({ run }, index) => queue.inTurn(() => { begun.push(index); return run() }))
    await Promise.resolve()
    await Promise.resolve()
    expect(begun).toEqual([0])
    works[0]?.end('first')
    expect(await answers[0]).toBe('first')
    works[1]?.fail()
    await expect(answers[1]).rejects.toThrow('no')
    works[2]?.end('third')
    expect(await answers[2]).toBe('third')
    expect(begun).toEqual([0, 1, 2])
    await queue.done()
  })
})

describe('a refusal', () => {
  it('offers the values that would be taken, and no other edits', () => {
    const place = { kind: 'part', id: 'a', field: 'width', part: 'a', copies: [] }
    const set = { label: 'Use 12.5 mm', command: { do: 'set value', path: ['parts', 'a'], value: '12.5' } }
    const other = { label: 'Move it clear', command: { do: 'lay again' } }
    const told = { message: 'Too large.', findings: [{ level: 'error', code: 'x', text: 'Too large.', place, mends: [set, other] }] }
    expect(refusalOf(told)).toEqual({ message: 'Too large.', mends: [{ label: 'Use 12.5 mm', value: '12.5' }] })
    expect(refusalOf(undefined).message).toContain('no reason')
  })
})

describe('an id for something new', () => {
  it('is the first that is free', () => {
    expect(freeId('part', [{ id: 'part_1' }, { id: 'part_3' }])).toBe('part_2')
  })
})

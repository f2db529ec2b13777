import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { client } from '../src/api/client'
import { useLook } from '../src/wayin/look'

/** Answers of the server to choices, each when it is told to. */
let asked: { body: { join: number }; signal: AbortSignal; answer: (value: unknown) => void }[] = []

beforeEach(() => {
  vi.useFakeTimers()
  asked = []
  vi.spyOn(client, 'POST').mockImplementation(((_: string, given: { body: { join: number }; signal: AbortSignal }) =>
    new Promise((resolve, reject) => {
      given.signal.addEventListener('abort', () => reject(new DOMException('aborted', 'AbortError')))
      asked.push({ ...given, answer: resolve })
    })) as never)
})
afterEach(() => { vi.restoreAllMocks(); vi.useRealTimers() })

const way = (join: number) => ({ data: { choices: { join }, parts: [] } })

describe('choices for a drawing that was brought', () => {
  it('are said to be tried once that takes long, and are taken when the answer comes', async () => {
    const look = useLook(7)
    const done = look.choose({ join: 0.2 })
    await vi.advanceTimersByTimeAsync(399)
    expect(look.trying.value).toBe(false)
    await vi.advanceTimersByTimeAsync(2)
    expect(look.trying.value).toBe(true)
    asked[0]?.answer(way(0.2))
    expect(await done).toBe(null)
    expect([look.trying.value, look.choices.value.join]).toEqual([false, 0.2])
  })

  it('can be left: all stays as it was, and what comes later counts for nothing', async () => {
    const look = useLook(7)
    const done = look.choose({ join: 3 })
    await vi.advanceTimersByTimeAsync(500)
    look.leave()
    expect(await done).toBe(null)
    expect([asked[0]?.signal.aborted, look.trying.value, look.choices.value.join, look.trouble.value]).toEqual([true, false, 0.01, ''])
  })

  it('are overtaken by those that are made meanwhile', async () => {
    const look = useLook(7)
    const first = look.choose({ join: 1 })
    const second = look.choose({ join: 2 })
    expect(asked[0]?.signal.aborted).toBe(true)
    asked[1]?.answer(way(2))
    expect([await first, await second]).toEqual([null, null])
    expect(look.choices.value.join).toBe(2)
  })

  it('that are refused say why beside their field, and change nothing', async () => {
    const look = useLook(7)
    const done = look.choose({ join: 9 })
    asked[0]?.answer({ error: { message: 'ends are joined within 5 mm' } })
    expect((await done)?.message).toBe('ends are joined within 5 mm')
    expect(look.choices.value.join).toBe(0.01)
  })
})

// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { client, type Changes, type Document, type Part, type Shown } from '../src/api/client'
import { sizeNames } from '../src/kit/sizeNames'
import { unitShown } from '../src/kit/unit'
import { useChoice } from '../src/state/choice'
import { useEdits } from '../src/state/edits'
import { useRun } from '../src/state/run'
import { useWorkshop } from '../src/state/workshop'

/** What a server answers to the calls of a test, one after the other. */
const calls: { way: string; path: string; body: unknown }[] = []
let answers: (() => unknown)[] = []

function answering(way: 'GET' | 'POST') {
  vi.spyOn(client, way).mockImplementation((async (path: string, given?: { body?: unknown }) => {
    calls.push({ way, path, body: given?.body })
    const next = answers.shift()
    if (!next) throw new Error(`nothing answers ${way} ${path}`)
    return next()
  }) as never)
}

const part = (id: string, count = 1): Part => ({ id, name: id, count, cutouts: [], stock: 'ply' }) as unknown as Part

function project(version: number, more: Partial<Shown> = {}, parts = [part('floor'), part('wall')]): Shown {
  const document = { name: 'Tray', unit: 'mm', names: [{ name: 'length', note: 'inside' }], parts, joints: [], stocks: [{ id: 'ply', on: [] }, { id: 'card', on: [] }], machines: [{ id: 'laser' }], machine: 'laser', starters: [] } as unknown as Document
  return { slug: 'tray', name: 'Tray', version, document, parts: [], sheets: [{}, {}], findings: [], ledger: [], values: { 'names/length': 240 }, stocks: { ply: { thickness: 3.07 } }, said: '', looking: false, ...more } as unknown as Shown
}

function changes(since: number, version: number, parts = [part('floor'), part('wall')]): Changes {
  const whole = project(version)
  return {
    ...whole, since, said: '', document: { ...whole.document, parts: [], joints: [] },
    document_parts: { ids: parts.map(({ id }) => id), changed: parts }, document_joints: { ids: [], changed: [] },
    parts: { ids: [], changed: [] }, ledger: {}, values: {},
  } as unknown as Changes
}

beforeEach(() => {
  setActivePinia(createPinia())
  calls.length = 0
  answers = []
  answering('GET')
  answering('POST')
})
afterEach(() => { vi.restoreAllMocks(); vi.useRealTimers() })

describe('the open project', () => {
  it('is what the server told last: what was overtaken is let go', () => {
    const workshop = useWorkshop()
    workshop.take(project(5))
    workshop.take(project(3))
    expect(workshop.shown?.version).toBe(5)
    workshop.take(project(1, { slug: 'other' }))
    expect(workshop.shown?.slug).toBe('other')
  })

  it('sets the unit of all fields, and the names that sizes may use with what they come to', async () => {
    const workshop = useWorkshop()
    const inches = project(1)
    inches.document.unit = 'in'
    workshop.take(inches)
    expect(unitShown.value).toBe('in')
    await Promise.resolve()
    expect(sizeNames.value.slice(0, 1)).toEqual([{ name: 'length', says: '9.449 in, inside' }])
    expect(sizeNames.value.map(({ name }) => name)).toContain('ply.thickness')
  })

  it('takes the changes of an edit where it stands where they begin, and asks for all where it does not', async () => {
    const workshop = useWorkshop()
    workshop.take(project(5))
    await workshop.change(changes(5, 6, [part('floor', 4)]))
    expect(workshop.shown?.version).toBe(6)
    expect(workshop.document?.parts.map(({ id, count }) => [id, count])).toEqual([['floor', 4]])
    answers = [() => ({ data: project(9) })]
    await workshop.change(changes(8, 9))
    expect(calls.map(({ path }) => path)).toEqual(['/api/projects/{slug}'])
    expect(workshop.shown?.version).toBe(9)
    // Of an older one, or of another project, nothing is taken and nothing asked.
    await workshop.change(changes(6, 7))
    await workshop.change({ ...changes(9, 10), slug: 'other' } as Changes)
    expect([workshop.shown?.version, calls.length]).toEqual([9, 1])
  })

  it('looks for the rest of what there is to say once a burst of edits is over, and takes it for that version alone', async () => {
    vi.useFakeTimers()
    const workshop = useWorkshop()
    const finding = { text: 'late', place: { kind: 'preparation' } } as never
    workshop.take(project(1))
    workshop.take(project(2, { looking: true }))
    workshop.take(project(3, { looking: true }))
    answers = [() => ({ data: { version: 3, findings: [finding], left: [null] } })]
    await vi.advanceTimersByTimeAsync(59)
    expect(calls).toEqual([])
    await vi.advanceTimersByTimeAsync(2)
    expect(calls.map(({ path }) => path)).toEqual(['/api/projects/{slug}/findings'])
    expect([workshop.shown?.findings.length, workshop.shown?.looking, workshop.left.length]).toEqual([1, false, 1])
    // What was said of the machine stays while it is looked at anew; an answer to an older version does not count.
    workshop.take(project(4, { looking: true }))
    expect(workshop.shown?.findings).toEqual([finding])
    answers = [() => ({ data: { version: 3, findings: [], left: [] } })]
    await vi.advanceTimersByTimeAsync(100)
    expect(workshop.shown?.looking).toBe(true)
  })

  it('says why it could not be opened', async () => {
    const workshop = useWorkshop()
    answers = [() => ({ error: { message: 'There is no project “tray”.' } })]
    await workshop.open('tray')
    expect([workshop.trouble, workshop.wrong]).toEqual(['There is no project “tray”.', true])
  })
})

describe('edits', () => {
  const put = (count: number) => (document: Document) => {
    const [first] = document.parts
    return first ? ({ do: 'put part', part: { ...first, count } } as never) : null
  }

  it('are made one after the other, each on the version and the document that the one before left', async () => {
    const workshop = useWorkshop()
    const edits = useEdits()
    workshop.take(project(1))
    answers = [() => ({ data: changes(1, 2, [part('floor', 7), part('wall')]) }), () => ({ data: changes(2, 3, [part('floor', 8)]) })]
    const seen: number[] = []
    const both = [
      edits.edit(put(7)),
      edits.edit((document) => { seen.push(document.parts[0]?.count ?? 0); return put(8)(document) }),
    ]
    expect(edits.busy).toBe(2)
    expect(await Promise.all(both)).toEqual([null, null])
    expect(calls.map(({ body }) => (body as { version: number }).version)).toEqual([1, 2])
    expect([seen, edits.busy]).toEqual([[7], 0])
  })

  it('give back why they were refused, with other values that would be taken', async () => {
    const workshop = useWorkshop()
    workshop.take(project(1))
    const mends = [{ label: 'Make it 5 mm', command: { do: 'set', value: '5' } }, { label: 'Remove it', command: { do: 'remove' } }]
    answers = [() => ({ error: { message: 'too small', findings: [{ mends }] } })]
    expect(await useEdits().edit(put(0))).toEqual({ message: 'too small', mends: [{ label: 'Make it 5 mm', value: '5' }] })
    expect(workshop.shown?.version).toBe(1)
  })

  it('show how the project stands where another window changed it, and say so', async () => {
    const workshop = useWorkshop()
    workshop.take(project(1))
    answers = [() => ({ error: { message: 'changed in another window', current: project(4) } })]
    const refused = await useEdits().edit(put(2))
    expect(refused?.message).toBe('changed in another window')
    expect([workshop.shown?.version, workshop.trouble]).toEqual([4, 'changed in another window'])
  })

  it('ask nothing of a thing that is gone or where no project is open', async () => {
    const edits = useEdits()
    expect((await edits.edit(put(2)))?.message).toBe('No project is open.')
    useWorkshop().take(project(1))
    expect((await edits.editPart('gone', () => ({ count: 2 })))?.message).toBe('That is not in the project any more.')
    expect(calls).toEqual([])
  })

  it('go on after one that failed, and say on the page what has no field', async () => {
    const workshop = useWorkshop()
    const edits = useEdits()
    workshop.take(project(1))
    answers = [() => { throw new Error('away') }, () => ({ data: changes(1, 2) })]
    const first = edits.change({ do: 'remove part', id: 'wall' } as never)
    const second = edits.editPart('wall', () => ({ count: 3 }))
    expect([await first, await second]).toEqual([false, null])
    expect(workshop.shown?.version).toBe(2)
  })

  it('are taken back on the version that stands, and what cannot be is said', async () => {
    const workshop = useWorkshop()
    const edits = useEdits()
    workshop.take(project(3))
    answers = [() => ({ data: changes(3, 4) }), () => ({ error: { message: 'There is nothing to undo.' } })]
    await edits.step('undo')
    expect([calls[0]?.path, calls[0]?.body, workshop.trouble]).toEqual(['/api/projects/{slug}/undo', { version: 3 }, ''])
    await edits.step('undo')
    expect(workshop.trouble).toBe('There is nothing to undo.')
  })
})

describe('what is chosen', () => {
  it('begins with the first part, and lets go of what is gone', () => {
    const workshop = useWorkshop()
    const picked = useChoice()
    workshop.take(project(1))
    expect(picked.partId).toBe('floor')
    picked.pick({ partId: 'wall', partIds: ['floor', 'wall'], stockId: 'card', sheet: 1, jointId: 'gone' })
    workshop.take(project(2, { sheets: [{}] as never }, [part('floor')]))
    expect([picked.partId, picked.partIds, picked.sheet, picked.jointId]).toEqual(['floor', ['floor'], 0, null])
    expect(picked.stock?.id).toBe('card')
    workshop.take(project(1, { slug: 'other' }, []))
    expect([picked.partId, picked.part]).toEqual([null, null])
  })

  it('has one part where one is chosen, and the shape that was chosen last', () => {
    useWorkshop().take(project(1))
    const picked = useChoice()
    picked.pick({ partId: 'wall' })
    expect(picked.partIds).toEqual(['wall'])
    picked.pick({ cutoutId: 'eye' })
    expect([picked.cutoutIds, picked.cutoutId]).toEqual([['eye'], 'eye'])
    picked.pick({ cutoutId: null })
    expect(picked.cutoutIds).toEqual([])
  })
})

describe('long work', () => {
  const told = (state: string, message = '') => () => ({ data: { id: 7, state, message, progress: 0.5 } })

  it('is followed until it is done', async () => {
    vi.useFakeTimers()
    const work = useRun('nest')
    answers = [told('waiting'), told('waiting'), told('running'), told('done')]
    const done = work.start('tray', 3)
    await vi.advanceTimersByTimeAsync(1000)
    expect((await done)?.state).toBe('done')
    expect([calls[0]?.path, calls[0]?.body, work.going.value]).toEqual(['/api/projects/{slug}/nest', { seconds: 3 }, false])
    expect(calls.length).toBe(4)
  })

  it('says why it failed, and why it could not begin', async () => {
    const work = useRun('prove')
    answers = [told('waiting'), told('failed', 'The sheet cannot be proved.')]
    await work.start('tray')
    expect(work.trouble.value).toBe('The sheet cannot be proved.')
    answers = [() => ({ error: { message: 'Lay out first.' } })]
    expect(await work.start('tray')).toBe(null)
    expect([work.trouble.value, work.going.value]).toEqual(['Lay out first.', false])
  })

  it('that is stopped before it is known to have begun is stopped then', async () => {
    vi.useFakeTimers()
    const work = useRun('nest')
    let began: (value: unknown) => void = () => undefined
    answers = [() => new Promise((resolve) => { began = resolve }), () => ({ data: {} }), told('done')]
    const done = work.start('tray')
    await work.stop()
    expect(work.stopping.value).toBe(true)
    began({ data: { id: 7, state: 'waiting', message: '' } })
    await vi.advanceTimersByTimeAsync(500)
    await done
    expect(calls.map(({ path }) => path)).toEqual(['/api/projects/{slug}/nest', '/api/runs/{run_id}/stop', '/api/runs/{run_id}'])
  })
})

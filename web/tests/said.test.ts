import { describe, expect, it } from 'vitest'

import type { Document, Finding } from '../src/api/client'
import { copyName } from '../src/dryfit/explain'
import { between } from '../src/frame/ready'
import { STATIONS, stationOf } from '../src/frame/stations'
import { pageOf, sayings } from '../src/frame/handbook/pages'
import { told } from '../src/layout/told'
import { liesAt, onBed, onSheet, rowKey, spoken } from '../src/prepare/prepared'

const DOCUMENT = { parts: [{ id: 'floor', name: 'Floor', count: 1 }, { id: 'wall', name: 'Wall', count: 2 }] } as unknown as Document

describe('a time', () => {
  it.each([[0, '0.0 s'], [9.94, '9.9 s'], [10, '10 s'], [59.4, '59 s'], [59.6, '1 min 0 s'], [228, '3 min 48 s'], [3599, '59 min 59 s'], [3600, '1 h 0 min'], [3845, '1 h 4 min']])('of %d s is said as %s', (seconds, said) => {
    expect(spoken(seconds)).toBe(said)
  })
})

describe('where a sheet lies on its bed', () => {
  const lies = { cos: 0, sin: 1, x: 300, y: 20 }

  it('is a quarter turn and a shift, and comes back', () => {
    const at = onBed(lies, { x: 10, y: 4 })
    expect(at).toEqual({ x: 296, y: 30 })
    expect(onSheet(lies, at)).toEqual({ x: 10, y: 4 })
    expect(liesAt(lies)).toBe('matrix(0 -1 1 0 300 -20)')
  })
})

describe('a row of the running order', () => {
  it('is known by its first task, wherever it is moved to', () => {
    const prepared = { jobs: [{ task: { stage: 'inner', part: 'floor', copy_number: 1 } }, { task: { stage: 'outer', part: 'wall', copy_number: 2 } }] }
    expect(rowKey(prepared as never, { jobs: [1, 0] } as never)).toBe('outer/wall#2')
    expect(rowKey(prepared as never, { jobs: [7] } as never)).toBe('')
  })
})

describe('a finding', () => {
  it.each([['stock', 'measure'], ['joint', 'join'], ['layout', 'lay-out'], ['sheet', 'lay-out'], ['preparation', 'prepare'], ['file', 'prove'], ['part', 'shape'], ['cut-out', 'shape'], ['project', 'shape']])('about a %s is mended at %s', (kind, station) => {
    expect(stationOf({ place: { kind } } as Finding)).toBe(station)
  })
})

describe('a copy', () => {
  it('is called by its number only where there are several', () => {
    expect(copyName(DOCUMENT, { part: 'floor', number: 1 })).toBe('Floor')
    expect(copyName(DOCUMENT, { part: 'wall', number: 2 })).toBe('Wall 2')
    expect(copyName(DOCUMENT, { part: 'gone', number: 1 })).toBe('gone')
    expect(copyName(null, { part: 'gone', number: 1 })).toBe('gone')
  })
})

describe('a layout', () => {
  const size = { stock: 'birch', width: 600, height: 400, count: 1 }

  it('says what it takes, what it saves and what is left whole', () => {
    const facts = { takes: [size], instead: [{ ...size, count: 2 }], used: 0.7149, left: [{ left: 0, bottom: 0, width: 200, height: 150 }] }
    expect(told(facts as never, 'mm')).toBe('Takes 1 sheet of 600 × 400 mm instead of 2 sheets of 600 × 400 mm; 71.5 % is parts. 200 × 150 mm left whole.')
  })

  it('says nothing of what it does not save', () => {
    expect(told({ takes: [{ ...size, count: 3 }], instead: [{ ...size, count: 3 }], used: 0.5, left: [] } as never, 'mm')).toBe('Takes 3 sheets of 600 × 400 mm; 50.0 % is parts.')
  })
})

describe('what is before the cut', () => {
  const note = (code: string, kind: string, level = 'warning'): Finding => ({ code, level, text: '', place: { kind } }) as unknown as Finding
  const project = { findings: [] as Finding[], layout_out_of_date: false, sheets: [{}] as object[], proof: { when: '', parts: 8, faults: 0, now: true } }
  const said = (change: Partial<Omit<typeof project, 'proof'>> & { proof?: typeof project.proof | null }): string[] => between({ ...project, ...change }).map((one) => `${one.station}: ${one.says}${one.alone ? ', alone' : ''}`)

  it('is nothing where all is proved as meant', () => expect(said({ findings: [note('thin-web', 'part', 'note')] })).toEqual([]))
  it('is what is to be mended, in working order', () => {
    expect(said({ findings: [note('overlap', 'sheet'), note('thin-web', 'part'), note('thin-web', 'cut-out'), note('no-reading', 'stock')] })).toEqual(['measure: 1 to mend', 'shape: 2 to mend', 'lay-out: 1 to mend'])
  })
  it('is a layout, and then a proof', () => {
    expect(said({ layout_out_of_date: true, sheets: [], proof: null, findings: [note('not-laid-out', 'layout')] })).toEqual(['lay-out: not done yet, alone'])
    expect(said({ layout_out_of_date: true, proof: { ...project.proof, now: false }, findings: [note('out-of-date', 'layout')] })).toEqual(['lay-out: out of date, alone', 'prove: changed since the proof, alone'])
    expect(said({ proof: null })).toEqual(['prove: not proved, alone'])
  })
  it('is what the proof found', () => expect(said({ findings: [note('proved-wrong', 'file')] })).toEqual(['prove: 1 to mend']))
})

describe('a page of the handbook', () => {
  it('says one thing after the other', () => {
    const page = '# Prove\n\nWhat it is for.\n\n## Three things\n\n1. Press **Prove\n   again** now.\n2. Look.\n\n## What goes wrong\n\n- **A slot is lost.** It is narrow.\n'
    expect(sayings(page)).toEqual(['Press Prove again now.', 'Look.', 'A slot is lost. It is narrow.'])
  })
  it.each(STATIONS.map(({ key }) => key))('is there for %s, with what to try and what goes wrong', async (station) => {
    expect(sayings(await pageOf(station)).length).toBeGreaterThanOrEqual(6)
  })
})

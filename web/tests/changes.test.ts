import { describe, expect, it } from 'vitest'

import type { Changes, Shown } from '../src/api/client'
import { withChanges } from '../src/state/changes'

/** A project of nothing but names: what is merged is told by ids. */
function shown(version: number, parts: [string, number][], joints: string[]): Shown {
  return {
    slug: 'tray',
    version,
    undo: `step ${version}`,
    document: { name: 'Tray', parts: parts.map(([id, width]) => ({ id, width })), joints: joints.map((id) => ({ id })) },
    parts: parts.map(([id, width]) => ({ id, width })),
    ledger: joints.flatMap((joint) => [{ joint, gap: version }, { joint, gap: 2 }]),
    values: Object.fromEntries(parts.map(([id, width]) => [`parts/${id}/width`, width])),
  } as unknown as Shown
}

describe('what an edit changed', () => {
  it('gives the project as it is now, in its order, with what is gone left out', () => {
    const before = shown(4, [['front', 240], ['back', 240], ['floor', 90]], ['corner', 'lap'])
    const now = shown(5, [['back', 240], ['front', 250], ['lid', 60]], ['hinge', 'corner'])
    const changed = [{ id: 'front', width: 250 }, { id: 'lid', width: 60 }]
    const ids = ['back', 'front', 'lid']
    const changes = {
      slug: 'tray',
      since: 4,
      version: 5,
      undo: 'step 5',
      document: { name: 'Tray', parts: [], joints: [] },
      document_parts: { ids, changed },
      document_joints: { ids: ['hinge', 'corner'], changed: [{ id: 'hinge' }] },
      parts: { ids, changed },
      ledger: { hinge: now.ledger.slice(0, 2), corner: now.ledger.slice(2), lap: [] },
      values: { 'parts/front/width': 250, 'parts/lid/width': 60, 'parts/floor/width': null },
    } as unknown as Changes
    expect(withChanges(before, changes)).toEqual(now)
    expect(() => withChanges(now, changes)).toThrow('since version 4')
  })

  it('keeps the rows of a joint that is called as every object has something called', () => {
    const before = shown(4, [], ['constructor', 'lap'])
    const changes = {
      slug: 'tray',
      since: 4,
      version: 5,
      undo: 'step 5',
      document: { name: 'Tray', parts: [], joints: [] },
      document_parts: { ids: [], changed: [] },
      document_joints: { ids: ['constructor', 'lap'], changed: [] },
      parts: { ids: [], changed: [] },
      ledger: { lap: [{ joint: 'lap', gap: 7 }] },
      values: {},
    } as unknown as Changes
    expect(withChanges(before, changes).ledger.map((row) => row.joint)).toEqual(['constructor', 'constructor', 'lap'])
  })
})

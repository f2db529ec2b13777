// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'

import { matching, type Findable } from '../src/find/matching'
import { onPage } from '../src/find/onPage'

const one = (words: string, where: string): Findable => ({ words, where, go: () => undefined })
const ALL = [one('Shape', 'station'), one('Long wall', 'part'), one('Long wall, left and End wall, left', 'joint, finger'), one('Put a shape: Round hole', 'do it'), one('Add a part', 'do it'), one('Scale by', 'Shape'), one('Wallet', 'part')]
const found = (typed: string): string[] => matching(ALL, typed).map(({ words }) => words)

describe('what is looked for', () => {
  it('has every word that was typed, its own or those of its place', () => {
    expect(found('wall finger')).toEqual(['Long wall, left and End wall, left'])
    expect(found('wall nothing')).toEqual([])
    expect(found('  ')).toEqual([])
  })
  it('comes first by whole words of its own, then by beginnings, then by its place', () => {
    expect(found('wall')).toEqual(['Long wall', 'Long wall, left and End wall, left', 'Wallet'])
    expect(found('shape')).toEqual(['Shape', 'Put a shape: Round hole', 'Scale by'])
    expect(found('PART')).toEqual(['Add a part', 'Wallet', 'Long wall'])
  })
  it('is told as often as it is asked for', () => expect(matching(ALL, 'a', 3)).toHaveLength(3))
})

describe('what stands on a page', () => {
  it('is each label and button once, by what it is called, but for what is off', () => {
    const root = document.createElement('div')
    root.innerHTML = '<label> Name  of it </label><button aria-label="Save as DXF">DXF</button><button disabled>Off</button><button>Go</button><button>Go</button><a>nowhere</a><a href="/x">Cut list</a>'
    expect(onPage(root, 'Hand over').map(({ words, where }) => `${words} (${where})`)).toEqual(['Name of it (Hand over)', 'Save as DXF (Hand over)', 'Go (Hand over)', 'Cut list (Hand over)'])
  })
})

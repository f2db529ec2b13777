import type { Document, Schemas } from '../api/client'

export type CopyRef = Schemas['CopyRef']
export type Step = Schemas['StepShown']

/** What a copy is called: its part's name, with its number where there are several. */
export function copyName(document: Document | null, copy: CopyRef): string {
  const part = document?.parts.find((p) => p.id === copy.part)
  return part ? (part.count > 1 ? `${part.name} ${copy.number}` : part.name) : copy.part
}

export function same(a: CopyRef, b: CopyRef): boolean {
  return a.part === b.part && a.number === b.number
}

/** In words, where a move along a direction comes from. */
export function comingFrom([x = 0, y = 0, z = 0]: number[]): string {
  const ways: [number, string][] = [[x, 'the left'], [-x, 'the right'], [y, 'the front'], [-y, 'the back'], [z, 'below'], [-z, 'above']]
  const named = ways.filter(([share]) => share > 0.3).sort((a, b) => b[0] - a[0])
  return named.map(([, name]) => name).join(' and ')
}

/** One step of the assembly as a sentence. */
export function stepText(document: Document | null, step: Step): string {
  const moving = step.moving.map((copy) => copyName(document, copy)).join(', ')
  const standing = step.standing.length > 3 ? 'what stands already' : step.standing.map((copy) => copyName(document, copy)).join(', ')
  return `${moving} onto ${standing}, from ${comingFrom(step.direction)}`
}

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

import type { Schemas } from '../api/client'

/** A project as it is listed: what is said of it, and in which order it stands. */
export type Listed = Schemas['ProjectListed']

/** What may be done by others with a project, in words. */
export const SHARED = ['nobody', 'look', 'copy', 'work'] as const satisfies readonly Listed['shared'][]
export const SHARED_NAMES: Record<Listed['shared'], string> = {
  nobody: 'with nobody', look: 'to look at', copy: 'to look at and to copy', work: 'to work on together',
}

export const ORDERS = ['changed lately', 'by name'] as const
export type Order = (typeof ORDERS)[number]

export function when(date: string): string {
  return new Date(date).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
}

function counted(number: number, one: string, more = `${one}s`): string {
  return `${number} ${number === 1 ? one : more}`
}

/** How far it has come, in words. */
export function standsAt(project: Listed): string {
  const parts = counted(project.parts ?? 0, 'part')
  if (project.stands === 'empty') return 'nothing drawn yet'
  if (project.stands === 'drawn') return `${parts}, not laid out`
  const sheets = counted(project.sheets, 'sheet')
  if (project.stands === 'cut') return `${parts}, cut`
  if (project.missing && project.stands !== 'faulty') return `${parts} on ${sheets}, ${counted(project.missing, 'copy', 'copies')} not laid out`
  const PROOF = { 'laid out': 'not proved', proved: 'proved', faulty: 'the proof found faults' }
  return `${parts} on ${sheets}, ${PROOF[project.stands]}`
}

/** Those whose name, stock or design has every word that is looked for, in an order. */
export function found(projects: readonly Listed[], words: string, order: Order): Listed[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  const has = (one: Listed): boolean => {
    const said = [one.name, one.variant_of, one.owner, ...one.stocks].join(' ').toLowerCase()
    return wanted.every((word) => said.includes(word))
  }
  const some = projects.filter(has)
  return order === 'by name' ? some.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })) : some.sort((a, b) => b.changed.localeCompare(a.changed))
}

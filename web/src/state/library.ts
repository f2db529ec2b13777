import { here } from '../frame/here'
import { client, sentence, type Document, type Machine, type Schemas, type Stock } from '../api/client'

/** What becomes of a stock in the library that was learnt something of here. */
export const inLibrary = (): string => (here.value?.name ? 'and it is proposed for the library' : 'and in the library')

type Cutter = Document['cutters'][number]
type Answer = { data?: Schemas['KeptOrProposed']; error?: unknown }

/** Each kind of thing that the library has, kept for everybody or proposed to whoever may keep it; what is said of that. */
export const keepForAll = {
  stock: async (body: Stock) => told(body.name, await client.POST('/api/library', { body })),
  machine: async (body: Machine) => told(body.name, await client.POST('/api/machines', { body })),
  cutter: async (body: Cutter) => told(body.name, await client.POST('/api/cutters', { body })),
}

function told(name: string, { data, error }: Answer): { said: string; trouble: string } {
  if (!data) return { said: '', trouble: sentence(error) }
  return { said: data.kept ? `${name} is in the library.` : `${name} is proposed; the operator takes it into the library.`, trouble: '' }
}

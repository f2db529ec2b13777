import { computed, onMounted, ref } from 'vue'

import { client, type Document, type Schemas } from '../../api/client'
import { freeId } from '../../state/fresh'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import { keepForAll } from '../../state/library'
import type { Refusal } from '../../state/refusal'
import { useWorkshop } from '../../state/workshop'

export type Cutter = Schemas['Cutter']
export type Routing = Document['preparation']['routing']

export const TIPS: Record<Cutter['tip'], string> = { upcut: 'upcut', downcut: 'downcut', compression: 'compression', ball: 'ball', V: 'V' }

/** The cutters of the project, those of the library, and how the router cuts with them. */
export function useRack() {
  const workshop = useWorkshop()
  const picked = useChoice()
  const edits = useEdits()
  const library = ref<Cutter[]>([])

  const cutters = computed(() => workshop.document?.cutters ?? [])
  const routing = computed(() => workshop.document?.preparation.routing ?? null)
  const isRouter = computed(() => picked.machine?.kind === 'router')
  const inUse = computed(() => cutters.value.find(({ id }) => id === routing.value?.cutter) ?? null)
  const names = computed(() => Object.fromEntries(cutters.value.map(({ id, name }) => [id, name])))

  onMounted(async () => {
    const { data } = await client.GET('/api/cutters')
    if (data) library.value = data
  })

  function put(change: (routing: Routing) => Partial<Routing>): Promise<Refusal | null> {
    return edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, routing: { ...preparation.routing, ...change(preparation.routing) } } }))
  }

  function putCutter(id: string, change: Partial<Cutter>): Promise<Refusal | null> {
    return edits.edit((document) => {
      const cutter = document.cutters.find((one) => one.id === id)
      return cutter ? { do: 'put cutter', cutter: { ...cutter, ...change }, use: false } : null
    })
  }

  /** Takes a cutter of the library into the rack; the first of all cuts parts out. */
  async function take(cutter: Cutter): Promise<string> {
    const id = cutters.value.some((one) => one.id === cutter.id) ? freeId('cutter', cutters.value) : cutter.id
    await edits.change({ do: 'put cutter', cutter: { ...cutter, id }, use: !routing.value?.cutter })
    return id
  }

  /** Keeps a cutter for everybody, or proposes it; what is said of that. */
  async function keep(cutter: Cutter): Promise<string> {
    const { said, trouble } = await keepForAll.cutter(cutter)
    library.value = (await client.GET('/api/cutters')).data ?? library.value
    return said || trouble
  }

  return { library, cutters, routing, isRouter, inUse, names, put, putCutter, take, keep }
}

import { computed, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue'

import { client, sentence, type Shown, type Stock } from '../api/client'
import { freeId } from '../state/fresh'
import { useWorkshop } from '../state/workshop'
import { askForKinds, useKinds, type Starter } from './kinds'

/** What a starter is made in: a project that is open, or one of its own with stocks of the library. */
export interface Ground {
  stocks: ShallowRef<Stock[]>
  project: ComputedRef<Shown | null>
  trouble: Ref<string>
  load: () => Promise<void>
  begin: (kind: string) => Starter | null
}

export function useGround(slug: string | null): Ground {
  const workshop = useWorkshop()
  const stocks = shallowRef<Stock[]>([])
  const trouble = ref('')
  const kinds = useKinds()
  const project = computed(() => (slug && workshop.shown?.slug === slug ? workshop.shown : null))

  async function load(): Promise<void> {
    await askForKinds()
    if (slug) {
      await workshop.open(slug)
      trouble.value = workshop.trouble
      stocks.value = project.value?.document.stocks ?? []
    }
    if (stocks.value.length) return
    const { data, error } = await client.GET('/api/library')
    if (data) stocks.value = apart(data)
    else trouble.value = sentence(error)
  }

  /**
   * A starter of a kind as it begins, of the material that it is for where there is some, with an id that nothing in
   * the project has; null without a stock.
   */
  function begin(kind: string): Starter | null {
    const material = kinds.value.find(({ key }) => key === kind)?.material
    const first = stocks.value.find((stock) => stock.material === material) ?? stocks.value[0]
    if (!first) return null
    const { starters = [], parts = [] } = project.value?.document ?? {}
    const id = freeId(kind, [...starters, ...parts.map((part) => ({ id: part.starter }))])
    return { id, kind: kind as Starter['kind'], stock: first.id, second_stock: first.id, sizes: {}, choices: {} }
  }

  return { stocks, project, trouble, load, begin }
}

/** Stocks of the library may bear the same id; here each gets one of its own. */
function apart(library: Stock[]): Stock[] {
  const seen = new Set<string>()
  return library.map((stock) => {
    let id = stock.id
    for (let number = 2; seen.has(id); number++) id = `${stock.id}_${number}`
    seen.add(id)
    return { ...stock, id }
  })
}

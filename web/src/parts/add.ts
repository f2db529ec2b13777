import { useRoute, useRouter } from 'vue-router'

import { useWorkshop } from '../stores/workshop'
import { newPart } from './fresh'

/** Adds a part and opens it at the Shape station; without a stock to cut it from, leads to Measure first. */
export function useAddPart(): () => Promise<void> {
  const workshop = useWorkshop()
  const router = useRouter()
  const route = useRoute()

  return async () => {
    const station = (key: string): string => `/projects/${String(route.params.slug)}/${key}`
    if (!workshop.document?.stocks.length) {
      workshop.trouble = 'Add a stock first: a part is cut from one.'
      await router.push(station('measure'))
      return
    }
    let added = ''
    const answer = workshop.edit((document) => {
      const part = newPart(document)
      added = part.id
      return { do: 'put part', part }
    })
    if (!(await workshop.told(answer))) return
    workshop.partId = added
    workshop.cutoutId = workshop.stockId = null
    await router.push(station('shape'))
  }
}

import { useRoute, useRouter } from 'vue-router'

import { useChoice } from './choice'
import { useEdits } from './edits'
import { useWorkshop } from './workshop'
import { freeId } from './fresh'

/** Adds a part and opens it at the Shape station; without a stock to cut it from, leads to Measure first. */
export function useAddPart(): () => Promise<void> {
  const workshop = useWorkshop()
  const picked = useChoice()
  const edits = useEdits()
  const router = useRouter()
  const route = useRoute()

  return async () => {
    const station = (key: string): string => `/projects/${String(route.params.slug)}/${key}`
    if (!workshop.document) return
    if (!workshop.document.stocks.length) {
      workshop.say('Add a stock first: a part is cut from one.')
      await router.push(station('measure'))
      return
    }
    let added = ''
    const answer = edits.edit((document) => {
      added = freeId('part', document.parts)
      return { do: 'begin part', id: added }
    })
    if (!(await edits.told(answer))) return
    picked.pick({ partId: added, cutoutId: null, stockId: null })
    await router.push(station('shape'))
  }
}

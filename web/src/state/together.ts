import { useIntervalFn } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'

import { client, type Schemas } from '../api/client'
import { freshKey } from '../api/order'
import { here, lookWhoIsHere } from '../frame/here'
import { useEdits } from './edits'
import { useWorkshop } from './workshop'

/** How often it is asked who else is there (ms): where somebody may be, and where nobody is likely to. */
const OFTEN = 1500
const SELDOM = 10_000

/** This window, as the server tells it from others. */
const WINDOW = freshKey()

/** Who else has the open project open; what they change in it is shown as soon as it is known. */
export function useTogether(station: Ref<string>): Ref<Schemas['SomebodyThere'][]> {
  const workshop = useWorkshop()
  const edits = useEdits()
  const others = ref<Schemas['SomebodyThere'][]>([])
  const every = ref(OFTEN)

  async function ask(): Promise<void> {
    const now = workshop.shown
    // Without a list of makers nobody can be told from another.
    if (!here.value?.by_name || !now || document.hidden) return
    const path = { slug: now.slug }
    const { data } = await client.POST('/api/projects/{slug}/there', { params: { path }, body: { window: WINDOW, station: station.value } }).catch(() => ({ data: undefined }))
    if (!data || workshop.shown?.slug !== now.slug) return
    others.value = data.others
    every.value = data.together || data.others.length ? OFTEN : SELDOM
    if (data.version > workshop.shown.version && !edits.busy) await edits.inTurn(() => workshop.follow())
  }

  if (!here.value) void lookWhoIsHere()
  useIntervalFn(() => void ask(), every, { immediateCallback: true })
  watch([station, () => workshop.shown?.slug, () => here.value?.by_name], () => void ask())
  return others
}

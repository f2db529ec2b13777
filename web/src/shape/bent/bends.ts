import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import type { Bend, Schemas, Side } from '../../api/client'
import { useChoice } from '../../state/choice'
import { useEdits } from '../../state/edits'
import { freeId } from '../../state/fresh'
import { refusal, type Refusal } from '../../state/refusal'
import { useWorkshop } from '../../state/workshop'
import { typeInPlace } from '../../starters/inPlace'

/** The bends of the part that is looked at, which of them is chosen, and whether the part is shown folded. */
export const useBends = defineStore('bends', () => {
  const picked = useChoice()
  const edits = useEdits()
  const workshop = useWorkshop()
  const wanted = ref<string | null>(null)
  const folded = ref(false)

  const all = computed(() => picked.part?.bends ?? [])
  const chosen = computed(() => all.value.find(({ id }) => id === wanted.value) ?? null)

  function choose(id: string | null): void {
    wanted.value = id
  }

  /** Adds a flange to a side, or to the end of another one; without a side, a bend line. */
  async function add(side: Side | null, of = ''): Promise<void> {
    const part = picked.part
    if (!part) return
    const id = freeId('bend', part.bends)
    if (await edits.change({ do: 'begin bend', part: part.id, id, side, of })) wanted.value = id
  }

  function put(id: string, change: Partial<Bend>): Promise<Refusal | null> {
    const part = picked.partId ?? ''
    return edits.edit((document) => {
      const bend = document.parts.find((p) => p.id === part)?.bends.find((b) => b.id === id)
      return bend ? { do: 'put bend', part, bend: { ...bend, ...change } as Bend } : null
    })
  }

  function shownOf(bend: Bend): Schemas['BendShown'] | undefined {
    return picked.partShown?.bends.find(({ id }) => id === bend.id)
  }

  /** Whether a bend can be turned: one of a starter's follows from its numbers, and may be none of them. */
  function turns(bend: Bend): boolean {
    return !bend.starter || Boolean(shownOf(bend)?.angle_of)
  }

  /** As `put`, of a bend that may be a starter's: then its length or angle goes into the starter's number that it is. */
  function type(bend: Bend, change: Partial<Bend>): Promise<Refusal | null> {
    if (!bend.starter) return put(bend.id, change)
    const shown = shownOf(bend)
    const [driven, size] = change.angle ? [shown?.angle_of, change.angle] : [shown?.length_of, change.length]
    if (!driven || !size) return Promise.resolve(refusal('It follows from the numbers of its starter, on the right; change those, or let it go.'))
    const starter = workshop.document?.starters.find(({ id }) => id === bend.starter)
    return typeInPlace(starter, driven, size, (changed) => edits.edit({ do: 'put starter', starter: changed }))
  }

  async function remove(id: string): Promise<void> {
    await edits.change({ do: 'remove bend', part: picked.partId ?? '', id })
  }

  return { all, chosen, folded, choose, add, put, turns, type, remove }
})

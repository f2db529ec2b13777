import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'

import type { Command, CutOut, Schemas, Size } from '../api/client'
import { typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

interface Clipboard {
  slug: string
  part: string
  /** How often it was pasted where it came from: each one lies beside the one before. */
  pasted: number
  copied: Schemas['Copied'][]
}

/** What is done with the shapes that are chosen on a part. */
export const useShapes = defineStore('shapes', () => {
  const workshop = useWorkshop()
  const picked = useChoice()
  const edits = useEdits()
  const clipboard = useLocalStorage<Clipboard | null>('copied-shapes', null, { serializer: { read: (text) => JSON.parse(text) as Clipboard, write: (kept) => JSON.stringify(kept) } })

  const part = computed(() => picked.partId ?? '')
  const ids = computed(() => picked.cutoutIds)
  const chosen = computed(() => new Set(ids.value))

  /** The shape that is chosen alone, as it was typed and as it is drawn. */
  const alone = computed(() => (ids.value.length === 1 ? picked.cutout : null))
  const aloneShown = computed(() => picked.partShown?.cutouts.find(({ id }) => id === alone.value?.id) ?? null)

  /** A value (mm, or degrees) of the shape that is chosen alone, by its field. */
  function value(field: string): number | undefined {
    return workshop.shown?.values[`parts/${part.value}/cutouts/${alone.value?.id}/${field}`]
  }

  /** Changes the shape that is chosen alone now, once its turn comes. */
  function put(change: (one: CutOut) => Partial<CutOut>): Promise<Refusal | null> {
    const id = alone.value?.id
    return edits.editPart(part.value, ({ cutouts }) => ({ cutouts: cutouts.map((one) => (one.id === id ? { ...one, ...change(one) } : one)) }))
  }

  /** A shape with all that it is grouped with; alone where one looks `inside` the group. */
  function withGroup(id: string, inside: boolean): string[] {
    const cutouts = picked.part?.cutouts ?? []
    const group = cutouts.find((c) => c.id === id)?.groups[0]
    if (!group || inside) return [id]
    return [...cutouts.filter((c) => c.groups[0] === group && c.id !== id).map((c) => c.id), id]
  }

  /** Chooses a shape; with `more` beside those that are, or lets it go where it was. */
  function choose(id: string, { more = false, inside = false } = {}): void {
    const these = withGroup(id, inside)
    if (!more) picked.pick({ cutoutIds: these })
    else if (chosen.value.has(id)) picked.pick({ cutoutIds: ids.value.filter((one) => !these.includes(one)) })
    else picked.pick({ cutoutIds: [...ids.value.filter((one) => !these.includes(one)), ...these] })
  }

  function chooseAll(): void {
    picked.pick({ cutoutIds: picked.part?.cutouts.map((c) => c.id) ?? [] })
  }

  function edit(command: Command): Promise<Refusal | null> {
    return edits.edit(command)
  }

  function move(x: number, y: number): Promise<boolean> {
    return edits.change({ do: 'move shapes', part: part.value, ids: ids.value, x: typed(x, workshop.unit), y: typed(y, workshop.unit) })
  }

  function moveBy(x: Size, y: Size): Promise<Refusal | null> {
    return edit({ do: 'move shapes', part: part.value, ids: ids.value, x, y })
  }

  async function remove(): Promise<void> {
    if (ids.value.length) await edits.change({ do: 'remove shapes', part: part.value, ids: ids.value })
  }

  /** Ids that no shape of the part has yet. */
  function fresh(count: number, base = 'shape'): string[] {
    const taken = new Set(picked.part?.cutouts.map((c) => c.id))
    const found: string[] = []
    for (let number = 1; found.length < count; number++) if (!taken.has(`${base}_${number}`)) found.push(`${base}_${number}`)
    return found
  }

  async function duplicate(x: Size, y: Size): Promise<Refusal | null> {
    const copies = fresh(ids.value.length)
    const answer = await edit({ do: 'duplicate shapes', part: part.value, ids: ids.value, new: copies, x, y })
    if (!answer) picked.pick({ cutoutIds: copies })
    return answer
  }

  /** Keeps the chosen shapes as they stand once the edits that are under way are stored. */
  function copy(): Promise<void> {
    const wanted = new Set(ids.value)
    const onto = part.value
    return edits.inTurn(async () => {
      const begins = `parts/${onto}/cutouts/`
      const values = Object.entries(workshop.shown?.values ?? {})
      const drawn = workshop.shown?.parts.find(({ id }) => id === onto)?.cutouts
      const shapes = workshop.document?.parts.find(({ id }) => id === onto)?.cutouts ?? []
      const copied = shapes.filter(({ id }) => wanted.has(id)).map((shape: CutOut) => {
        const own = `${begins}${shape.id}/`
        const at = drawn?.find((c) => c.id === shape.id)
        return { shape, x: at?.x ?? 0, y: at?.y ?? 0, values: Object.fromEntries(values.filter(([path]) => path.startsWith(own)).map(([path, mm]) => [path.slice(own.length), mm])) }
      })
      if (copied.length) clipboard.value = { slug: workshop.shown?.slug ?? '', part: onto, copied, pasted: 0 }
    })
  }

  async function paste(): Promise<void> {
    if (!clipboard.value && !edits.busy) return
    const onto = part.value
    let copies: string[] = []
    const answer = edits.edit(() => {
      const kept = clipboard.value
      if (!kept || !picked.part) return null
      const here = kept.slug === workshop.shown?.slug
      // On the part that they came from, copies would lie on what they are copies of.
      const pasted = here && kept.part === onto ? kept.pasted + 1 : 0
      const beside = typed(5 * pasted, workshop.unit)
      copies = fresh(kept.copied.length)
      clipboard.value = { ...kept, pasted }
      return { do: 'paste shapes', part: onto, copied: kept.copied, new: copies, x: beside, y: beside, exactly: !here }
    })
    if (await edits.told(answer)) picked.pick({ cutoutIds: copies })
  }

  async function cut(): Promise<void> {
    await copy()
    await remove()
  }

  function group(): void {
    if (ids.value.length > 1) void edits.change({ do: 'group shapes', part: part.value, ids: ids.value })
  }

  function ungroup(): void {
    if (ids.value.length) void edits.change({ do: 'ungroup shapes', part: part.value, ids: ids.value })
  }

  return { ids, chosen, alone, aloneShown, value, put, clipboard, choose, chooseAll, move, moveBy, remove, duplicate, copy, paste, cut, group, ungroup, fresh }
})

import { ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { refusalOf, type Refusal } from '../state/refusal'

export type WayIn = Schemas['WayInShown']
export type Choices = Schemas['Choices']
export type Told = Schemas['OfFileShown']
export type Spot = Schemas['DrawingPoint']

/** What is chosen until the server has said what was chosen before. */
const NOTHING: Choices = { join: 0.01, once: true, arcs: true, crossing: 'rooms', apart: [], polygons: [], purposes: {}, depths: {}, mirrored: false, stiff: [] }

/** From so long on (ms) it is said that choices are being tried. */
const LONG = 400

/** A drawing that was brought, looked at by choices that can be changed; only the answer to the last one is shown. */
export function useLook(id: number) {
  const shown = shallowRef<WayIn | null>(null)
  const choices = ref<Choices>(NOTHING)
  const trouble = ref('')
  const madeFor = ref('')
  let asked = 0
  /** Whether other choices are being tried for so long that it is worth saying. */
  const trying = ref(false)
  let going = new AbortController()

  /** Gives up what is being tried: all stays as it was. */
  function leave(): void {
    asked++
    trying.value = false
    going.abort()
  }

  /** Looks by what was chosen before. */
  async function begin(): Promise<void> {
    try {
      const { data, error } = await client.GET('/api/brought/{file_id}', { params: { path: { file_id: id } } })
      if (!data) throw error
      shown.value = data
      choices.value = data.choices
      madeFor.value = data.made_for
    } catch (fault) {
      trouble.value = sentence(fault)
    }
  }

  async function look(next: Choices): Promise<Refusal | null> {
    leave()
    const turn = asked
    const { signal } = (going = new AbortController())
    const soon = setTimeout(() => { trying.value = turn === asked }, LONG)
    try {
      const { data, error } = await client.POST('/api/brought/{file_id}/look', { params: { path: { file_id: id } }, body: next, signal })
      if (turn !== asked) return null
      if (!data) return refusalOf(error)
      shown.value = data
      choices.value = data.choices
      trouble.value = ''
      return null
    } catch (fault) {
      return signal.aborted ? null : refusalOf(fault)
    } finally {
      clearTimeout(soon)
      if (turn === asked) trying.value = false
    }
  }

  function choose(change: Partial<Choices>): Promise<Refusal | null> {
    return look({ ...choices.value, ...change })
  }

  /** Another size of the whole: places that were chosen on the drawing are not where they were. */
  function size(change: Pick<Choices, 'known'> & Partial<Choices>): Promise<Refusal | null> {
    return choose({ ...change, apart: [], polygons: [], stiff: [] })
  }

  /** For a choice that has no field to show its refusal beside. */
  async function told(change: Partial<Choices>): Promise<void> {
    trouble.value = (await choose(change))?.message ?? ''
  }

  /** Tells what is wrong with what was typed. */
  function say(what: string): void {
    trouble.value = what
  }

  /** Takes or leaves what is at a place: a gap to be joined, chords to be arcs, a slot to follow the sheet. */
  function turn(list: 'apart' | 'polygons' | 'stiff', place: Spot & { taken: boolean }): Promise<void> {
    const left = (choices.value[list] ?? []).filter((one) => Math.hypot(one.x - place.x, one.y - place.y) > 0.01)
    return told({ [list]: place.taken ? [...left, { x: place.x, y: place.y }] : left })
  }

  /** How many outlines close within a tolerance (mm), told at once while it is dragged. */
  async function closedBy(join: number): Promise<Schemas['JoinedShown'] | null> {
    const { data } = await client.POST('/api/brought/{file_id}/joined', { params: { path: { file_id: id } }, body: { ...choices.value, join } })
    return data ?? null
  }

  /** The line nearest to a point of the drawing; the way between the ends nearest to two. */
  async function lineAt(at: Spot, to: Spot | null = null): Promise<Schemas['LineShown'] | null> {
    const { data, error } = await client.POST('/api/brought/{file_id}/line', { params: { path: { file_id: id } }, body: { choices: choices.value, at, to } })
    if (!data) trouble.value = sentence(error)
    return data ?? null
  }

  return { shown, choices, trouble, madeFor, trying, leave, begin, choose, size, told, say, turn, closedBy, lineAt }
}

export type Look = ReturnType<typeof useLook>

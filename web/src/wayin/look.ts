import { ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { refusalOf, type Refusal } from '../state/refusal'

export type WayIn = Schemas['WayInShown']
export type Choices = Schemas['Choices']

/** A drawing that was brought, looked at by choices that can be changed; only the answer to the last one is shown. */
export function useLook(id: number) {
  const shown = shallowRef<WayIn | null>(null)
  const choices = ref<Choices>({ join: 0.01, arcs: true, purposes: {}, mirrored: false })
  const trouble = ref('')
  let asked = 0

  async function look(next: Choices): Promise<Refusal | null> {
    const turn = ++asked
    try {
      const { data, error } = await client.POST('/api/brought/{file_id}/look', { params: { path: { file_id: id } }, body: next })
      if (turn !== asked) return null
      if (!data) return refusalOf(error)
      shown.value = data
      choices.value = next
      trouble.value = ''
      return null
    } catch (fault) {
      return refusalOf(fault)
    }
  }

  function choose(change: Partial<Choices>): Promise<Refusal | null> {
    return look({ ...choices.value, ...change })
  }

  /** For a choice that has no field to show its refusal beside. */
  async function told(change: Partial<Choices>): Promise<void> {
    trouble.value = (await choose(change))?.message ?? ''
  }

  /** The line nearest to a point of the drawing. */
  async function lineAt(x: number, y: number): Promise<Schemas['LineShown'] | null> {
    const { data, error } = await client.POST('/api/brought/{file_id}/line', { params: { path: { file_id: id } }, body: { choices: choices.value, x, y } })
    if (!data) trouble.value = sentence(error)
    return data ?? null
  }

  return { shown, choices, trouble, choose, told, lineAt }
}

export type Look = ReturnType<typeof useLook>

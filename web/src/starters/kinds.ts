import { shallowRef } from 'vue'

import { client, type Schemas } from '../api/client'

export type Kind = Schemas['KindShown']
export type Starter = Schemas['Starter']

const known = shallowRef<Kind[]>([])
let asking: Promise<void> | null = null

/** Every kind of starter, asked for once. */
export function useKinds(): typeof known {
  void askForKinds()
  return known
}

/** Settled once the kinds are known, or could not be had. */
export function askForKinds(): Promise<void> {
  asking ??= client.GET('/api/starters').then(({ data }) => {
    if (data) known.value = data
    else asking = null
  })
  return asking
}

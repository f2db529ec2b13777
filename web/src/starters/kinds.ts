import { shallowRef } from 'vue'

import { client, type Schemas } from '../api/client'

export type Kind = Schemas['KindShown']
export type Starter = Schemas['Starter']

const known = shallowRef<Kind[]>([])
let asked = false

/** Every kind of starter, asked for once. */
export function useKinds(): typeof known {
  if (!asked) {
    asked = true
    void client.GET('/api/starters').then(({ data }) => {
      if (data) known.value = data
      else asked = false
    })
  }
  return known
}

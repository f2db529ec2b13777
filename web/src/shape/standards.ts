import { shallowRef } from 'vue'

import { client, type Schemas } from '../api/client'

const kept = shallowRef<Schemas['StandardShown'][]>([])
let asked = false

/** The library of standard things, asked for once. */
export function useStandards(): typeof kept {
  if (!asked) {
    asked = true
    client.GET('/api/standards').then(({ data }) => { kept.value = data ?? [] }, () => { asked = false })
  }
  return kept
}

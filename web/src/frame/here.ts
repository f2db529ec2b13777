import { shallowRef } from 'vue'

import { client, type Schemas } from '../api/client'

/** Who one is here; nothing until that is known. */
export const here = shallowRef<Schemas['RoleShown'] | null>(null)

export async function lookWhoIsHere(): Promise<void> {
  here.value = (await client.GET('/api/role')).data ?? null
}

/** Ends the session here, so that the next one at this screen comes in by themselves. */
export async function leave(): Promise<void> {
  await client.POST('/api/leave')
  location.assign('/enter')
}

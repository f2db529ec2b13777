import type { Schemas } from '../api/client'
import { reach } from '../api/reach'

/** Keeps a PNG or JPEG with the server, to be laid under a drawing; throws what it says against it. */
export async function keepPicture(file: File): Promise<Schemas['KeptPicture']> {
  const answer = await reach('/api/pictures', { method: 'POST', body: file })
  const told: unknown = await answer.json()
  if (!answer.ok) throw told
  return told as Schemas['KeptPicture']
}

import { base64 } from '../api/base64'
import { client, sentence, type Machine, type Schemas } from '../api/client'
import { reach } from '../api/reach'

export type DeviceShown = Schemas['DeviceShown']

/** Puts a file into the simulated machine. Throws what it says where it does not take it. */
export async function send(name: string, file: Blob, profile: Machine | null, laid: Schemas['Laid'] | null): Promise<DeviceShown> {
  const { data, error } = await client.POST('/api/device/file', { body: { name, data: await base64(file), profile, laid } })
  if (!data) throw new Error(sentence(error))
  return data
}

/** Sends the proved file of a sheet as the machine reads it, with the sheet as it lies. Throws a sentence. */
export async function sendSheet(slug: string, number: number, kind: string, profile: Machine | null, laid: Schemas['Laid']): Promise<DeviceShown> {
  const answer = await reach(`/api/projects/${slug}/sheets/${number}.${kind}`)
  if (!answer.ok) throw new Error(sentence(await answer.json()))
  const name = /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '')?.[1] ?? `sheet.${kind}`
  return send(name, await answer.blob(), profile, laid)
}

import { client, type Schemas } from './client'

let asked: Promise<Schemas['LimitsShown'] | undefined> | null = null

/** What may be sent at the most, asked for once; the server refuses more in any case. */
async function limits(): Promise<Schemas['LimitsShown'] | undefined> {
  asked ??= client.GET('/api/limits').then(({ data }) => data)
  return asked
}

/** Throws a sentence where a file is larger than is taken, before any of it is sent. */
export async function checkSize(file: File, which: 'project_file' | 'drawing'): Promise<void> {
  const most = (await limits())?.[which] ?? Infinity
  if (file.size <= most) return
  const called = which === 'drawing' ? 'a drawing that is brought' : 'a project file'
  throw { message: `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; ${called} has at most ${most / 1e6} MB.` }
}

import { client, type Command } from '../api/client'
import type { Ground } from './ground'
import type { Starter } from './kinds'

/** Makes a starter in the open project or in one of its own under `name`; answers the project's slug. */
export async function made(starter: Starter, ground: Ground, name: string): Promise<string> {
  const known = ground.project.value?.document.stocks ?? []
  const used = ground.stocks.value.filter((stock) => stock.id === starter.stock || stock.id === starter.second_stock)
  const commands: Command[] = [
    ...used.filter((stock) => !known.includes(stock)).map((stock) => ({ do: 'put stock' as const, stock })),
    { do: 'put starter', starter },
  ]
  const project = ground.project.value
  if (project) {
    await edits(project.slug, project.version, commands)
    return project.slug
  }
  const { data, error } = await client.POST('/api/projects', { body: { name } })
  if (!data) throw error
  const spare = data.document.stocks.filter((stock) => !used.some((other) => other.id === stock.id))
  await edits(data.slug, data.version, [...commands, ...spare.map((stock) => ({ do: 'remove stock' as const, id: stock.id }))])
  return data.slug
}

async function edits(slug: string, version: number, commands: Command[]): Promise<void> {
  for (const command of commands) {
    const { data, error } = await client.POST('/api/projects/{slug}/edit', { params: { path: { slug } }, body: { version, command } })
    if (!data) throw error
    version = data.version
  }
}

import type { StationKey } from '../stations'

/** A page of the handbook for each station, as it was written. */
const PAGES = import.meta.glob<string>('../../../../docs/handbook/*.md', { query: '?raw', import: 'default' })

/** A page by its name, as HTML. */
export async function writtenPage(name: string): Promise<string> {
  const { marked } = await import('marked')
  return marked.parse((await PAGES[`../../../../docs/handbook/${name}.md`]?.()) ?? '')
}

export async function pageOf(station: StationKey): Promise<string> {
  return (await PAGES[`../../../../docs/handbook/${station}.md`]?.()) ?? ''
}

/** What a page says, one by one: each thing to try and each sign of what goes wrong, without its marks. */
export function sayings(page: string): string[] {
  const items = page.split(/\n(?=\d+\. |- )/).slice(1)
  return items.map((item) => plain(item.split(/\n\n|\n#/)[0] ?? ''))
}

function plain(item: string): string {
  return item.replace(/^(\d+\.|-) /, '').replace(/[*`]/g, '').replace(/\s+/g, ' ').trim()
}

import type { StationKey } from '../stations'

/** A page of the handbook for each station, as it was written. */
const PAGES = import.meta.glob<string>('../../../../docs/handbook/*.md', { query: '?raw', import: 'default' })

export async function pageOf(name: StationKey | 'when-it-does-not-fit'): Promise<string> {
  return (await PAGES[`../../../../docs/handbook/${name}.md`]?.()) ?? ''
}

/** A page as HTML: our own words alone, nothing of a maker's is read as one. */
export async function writtenPage(name: Parameters<typeof pageOf>[0]): Promise<string> {
  const { marked } = await import('marked')
  return marked.parse(await pageOf(name))
}

/** What a page says, one by one: each thing to try and each sign of what goes wrong, without its marks. */
export function sayings(page: string): string[] {
  const items = page.split(/\n(?=\d+\. |- )/).slice(1)
  return items.map((item) => plain(item.split(/\n\n|\n#/)[0] ?? ''))
}

function plain(item: string): string {
  return item.replace(/^(\d+\.|-) /, '').replace(/[*`]/g, '').replace(/\s+/g, ' ').trim()
}

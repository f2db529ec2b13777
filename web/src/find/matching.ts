/** Something that can be found by its words: where it is, its key if it has one, and what Enter does there. */
export interface Findable {
  words: string
  where: string
  key?: string
  go: () => unknown
}

/** Those in which every word that was typed begins one, or stands in one; those whose own words do come first. */
export function matching(all: readonly Findable[], typed: string, most = 12): Findable[] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean)
  if (!wanted.length) return []
  const scored = all.map((one, order) => ({ one, order, score: scoreOf(one, wanted) })).filter(({ score }) => score > 0)
  return scored.sort((a, b) => b.score - a.score || a.order - b.order).slice(0, most).map(({ one }) => one)
}

/** 0 where a word is missing; more for words that are whole, that begin one, and that are its own, not of its place. */
function scoreOf({ words, where }: Findable, wanted: readonly string[]): number {
  const own = words.toLowerCase()
  const place = where.toLowerCase()
  let score = 0
  for (const word of wanted) {
    const found = own.includes(word) ? 4 + begins(own, word) : place.includes(word) ? 1 : 0
    if (!found) return 0
    score += found
  }
  return score + (own.startsWith(wanted.join(' ')) ? 0.5 : 0) + 1 / (1 + own.length)
}

function begins(text: string, word: string): number {
  const parts = text.split(/[^\p{L}\p{N}]+/u)
  if (parts.includes(word)) return 3
  return parts.some((part) => part.startsWith(word)) ? 2 : 0
}

import type { Schemas, Stock } from '../api/client'
import { tint } from '../look/tint'

type Shown = Schemas['StarterShown']

/** What a starter needs, as a sentence. */
export function needsOf({ parts, joints, area }: Shown): string {
  return `${parts} ${parts === 1 ? 'part' : 'parts'}, ${joints} ${joints === 1 ? 'joint' : 'joints'}, ${(area / 100).toFixed(0)} cm² of sheet`
}

/** The tint of each of its parts, by that part's stock. */
export function tintsOf(shown: Shown, stocks: Stock[]): Record<string, string> {
  return Object.fromEntries(Object.entries(shown.stock_of).map(([part, stock]) => [part, tint(stocks.find((s) => s.id === stock))]))
}

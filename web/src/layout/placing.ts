import type { PartShown, Placement } from '../api/client'
import { useEdits } from '../state/edits'

/** A copy of a part as it lies on the sheet that is shown. */
export interface Laid {
  key: string
  placement: Placement
  shown: PartShown
  name: string
  fill: string
}

export function keyOf(placement: { part: string; copy_number: number }): string {
  return `${placement.part}#${placement.copy_number}`
}

export function round(mm: number): number {
  return Math.round(mm * 100) / 100
}

/** Where the middle of what a part takes up lies from its corner, as it is turned and turned over. */
function middle({ left, bottom, right, top }: PartShown['bounds'], turn: number, mirrored: boolean): { x: number; y: number } {
  const x = (left + right) / 2
  const y = ((bottom + top) / 2) * (mirrored ? -1 : 1)
  const angle = (turn * Math.PI) / 180
  return { x: x * Math.cos(angle) - y * Math.sin(angle), y: x * Math.sin(angle) + y * Math.cos(angle) }
}

/** Parts put where the maker wants them: they stay there when the rest is laid out again. */
export function usePlacing() {
  const edits = useEdits()

  async function place(item: Laid, change: Partial<Placement>): Promise<void> {
    await edits.change({ do: 'place parts', placements: [{ ...item.placement, by_hand: true, ...change }] })
  }

  /** Turns a part, or turns it over, about its middle, so that it stays where it is seen. */
  function turn(item: Laid, change: { turn?: number; mirrored?: boolean }): void {
    const { placement, shown } = item
    const before = middle(shown.bounds, placement.turn, placement.mirrored)
    const after = middle(shown.bounds, change.turn ?? placement.turn, change.mirrored ?? placement.mirrored)
    void place(item, { ...change, x: round(placement.x + before.x - after.x), y: round(placement.y + before.y - after.y) })
  }

  function turnBy(item: Laid, degrees: number): void {
    turn(item, { turn: (item.placement.turn + degrees + 360) % 360 })
  }

  return { place, turn, turnBy }
}

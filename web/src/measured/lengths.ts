import type { PartShown, Schemas } from '../api/client'

export type Length = Schemas['LengthShown']
export type SheetMeasured = Schemas['SheetMeasured']
export type Face = Schemas['Reading']['face']

/** What a length is known by: the part, the shape that is cut out of it, and the way. */
export function keyOf({ part, cut_out, way }: Pick<Length, 'part' | 'way'> & { cut_out?: string }): string {
  return `${part} ${cut_out ?? ''} ${way}`
}

/** Where each part lies (mm), one beside the other in rows about as wide as two of them are high. */
export function beside(parts: readonly PartShown[]): { part: PartShown; x: number; y: number }[] {
  const GAP = 24
  const area = parts.reduce((sum, { bounds }) => sum + (bounds.right - bounds.left + GAP) * (bounds.top - bounds.bottom + GAP), 0)
  const room = Math.max(Math.sqrt(area) * 1.5, ...parts.map(({ bounds }) => bounds.right - bounds.left))
  let [x, top, low] = [0, 0, 0]
  return parts.map((part) => {
    const { left, right, bottom, top: high } = part.bounds
    if (x > 0 && x + right - left > room) [x, top] = [0, low - GAP]
    const at = { part, x: x - left, y: top - high }
    x += right - left + GAP
    low = Math.min(low, top - (high - bottom))
    return at
  })
}

/** What is to say why a reading was left out. */
export const LEFT_OUT: Record<NonNullable<SheetMeasured['reads'][number]['left_out']>, string> = {
  inches: 'it looks like inches: type “in” behind it, or the other unit',
  'ten times': 'it is ten times off: look at the decimal point',
  'another length': 'it is nearer to another length of these: look at the number on the drawing',
  'far off': 'nothing on a machine makes it so: measure it again',
  disagrees: 'it disagrees with all the others: probably misread',
}

/** How many of a hundred a share is, with its sign. */
export function percent(share: number): string {
  return `${share > 0 ? '+' : share < 0 ? '−' : ''}${Math.abs(100 * share).toFixed(2)} %`
}

import type { Told, Unit } from '../api/client'
import { plain, withUnit } from '../kit/units'

type Sizes = Told['takes']

function named(sizes: Sizes, unit: Unit): string {
  const words = sizes.map((size, index) => {
    const sheets = index > 0 ? '' : size.count === 1 ? ' sheet' : ' sheets'
    return `${size.count}${sheets} of ${plain(size.width, unit)} × ${withUnit(size.height, unit)}`
  })
  return words.join(' and ')
}

/** What a layout takes and saves, and what of it is left whole, in a sentence. */
export function told(facts: Told, unit: Unit): string {
  const taken = named(facts.takes, unit)
  const before = named(facts.instead, unit)
  const saved = taken === before ? '' : ` instead of ${before}`
  const whole = facts.left.map((rest) => `${plain(rest.width, unit)} × ${withUnit(rest.height, unit)}`).join(' and ')
  return `Takes ${taken}${saved}; ${(facts.used * 100).toFixed(1)} % is parts.${whole ? ` ${whole} left whole.` : ''}`
}

import type { Size, Unit } from '../api/client'
import { INCH } from '../api/tables'

/** A length in the maker's unit, without needless zeros: `3.07`, `0.121`. */
export function plain(mm: number, unit: Unit): string {
  const text = unit === 'in' ? (mm / INCH).toFixed(Math.abs(mm) < 2.54 ? 4 : 3) : mm.toFixed(2)
  const trimmed = text.replace(/\.?0+$/, '')
  return trimmed === '-0' ? '0' : trimmed
}

/** A length with its unit: `3.07 mm`. */
export function withUnit(mm: number, unit: Unit): string {
  return `${plain(mm, unit)} ${unit}`
}

/** From so far on (mm) a way is told in metres or feet. */
const FAR = 10_000

/** A length that may be a long way, with sense: `59.0 m`, `193.5 ft`. */
export function longWay(mm: number, unit: Unit): string {
  if (mm < FAR) return withUnit(mm, unit)
  return unit === 'in' ? `${(mm / (12 * INCH)).toFixed(1)} ft` : `${(mm / 1000).toFixed(1)} m`
}

/** A gap or a deviation, always with its decimals, so that columns line up. */
export function fine(mm: number, unit: Unit): string {
  return unit === 'in' ? (mm / INCH).toFixed(4) : mm.toFixed(3)
}

/** The size that a number in mm is typed as, in the maker's unit. */
export function typed(mm: number, unit: Unit): Size {
  return { text: plain(mm, unit), unit }
}

/** Whether a typed size is a bare number, so that showing its value again would say nothing new. */
export function isBare(text: string): boolean {
  return /^\s*-?\d+([.,]\d+)?\s*$/.test(text)
}

/** A bare number so many steps of its last place further on, written as it was: `13.5` and 2 are `13.7`. */
export function stepped(text: string, steps: number): string {
  const bare = text.trim()
  const places = /[.,](\d+)$/.exec(bare)?.[1]?.length ?? 0
  const next = (Number(bare.replace(',', '.')) + steps / 10 ** places).toFixed(places)
  return bare.includes(',') ? next.replace('.', ',') : next
}

/** A bare number in mm. */
export function bareMillimetres(size: Size): number {
  return Number(size.text.replace(',', '.')) * (size.unit === 'in' ? INCH : 1)
}

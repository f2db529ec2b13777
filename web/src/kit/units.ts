import type { Size, Unit } from '../api/client'

/** A length in the maker's unit, without needless zeros: `3.07`, `0.121`. */
export function plain(mm: number, unit: Unit): string {
  const text = unit === 'in' ? (mm / 25.4).toFixed(Math.abs(mm) < 2.54 ? 4 : 3) : mm.toFixed(2)
  const trimmed = text.replace(/\.?0+$/, '')
  return trimmed === '-0' ? '0' : trimmed
}

/** A length with its unit: `3.07 mm`. */
export function withUnit(mm: number, unit: Unit): string {
  return `${plain(mm, unit)} ${unit}`
}

/** A gap or a deviation, always with its decimals, so that columns line up. */
export function fine(mm: number, unit: Unit): string {
  return unit === 'in' ? (mm / 25.4).toFixed(4) : mm.toFixed(3)
}

/** The size that a number in mm is typed as, in the maker's unit. */
export function typed(mm: number, unit: Unit): Size {
  return { text: plain(mm, unit), unit }
}

/** Whether a typed size is a bare number, so that showing its value again would say nothing new. */
export function isBare(text: string): boolean {
  return /^\s*-?\d+([.,]\d+)?\s*$/.test(text)
}

/** A bare number in mm. */
export function bareMillimetres(size: Size): number {
  return Number(size.text.replace(',', '.')) * (size.unit === 'in' ? 25.4 : 1)
}

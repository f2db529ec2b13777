import type { Stock } from '../api/client'

/** Parts are tinted by material, as the sheet in the hand looks. */
const TINTS: Record<Stock['material'], string> = {
  plywood: '#e6cf9f',
  'solid wood': '#d8b083',
  MDF: '#ccb799',
  acrylic: '#bcdcdd',
  card: '#dbd0b8',
  aluminium: '#cbd0d5',
  fabric: '#e5cbd1',
  PVC: '#c9cfdc',
  polycarbonate: '#c4d6e4',
  ABS: '#cfcac3',
  foam: '#e3e0d2',
  other: '#d8d5cd',
}

export function tint(stock: Stock | null | undefined): string {
  return TINTS[stock?.material ?? 'other']
}

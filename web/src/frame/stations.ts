import type { Finding } from '../api/client'

export const STATIONS = [
  { key: 'measure', name: 'Measure' },
  { key: 'shape', name: 'Shape' },
  { key: 'join', name: 'Join' },
  { key: 'lay-out', name: 'Lay out' },
  { key: 'prepare', name: 'Prepare' },
  { key: 'prove', name: 'Prove' },
  { key: 'hand-over', name: 'Hand over' },
] as const

export type StationKey = (typeof STATIONS)[number]['key']

/** The station where a finding is mended. */
export function stationOf(finding: Finding): StationKey {
  switch (finding.place.kind) {
    case 'stock':
      return 'measure'
    case 'joint':
      return 'join'
    case 'layout':
    case 'sheet':
      return 'lay-out'
    case 'preparation':
      return 'prepare'
    case 'file':
      return 'prove'
    default:
      return 'shape'
  }
}

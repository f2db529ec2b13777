import type { Shown } from '../api/client'
import { STATIONS, stationOf, type StationKey } from './stations'

/** What stands between a project and the cut, at the station where it is seen to. */
export interface Between {
  station: StationKey
  says: string
  /** Whether it needs no choice of the maker's: parts are laid out, and sheets proved, by themselves. */
  alone: boolean
}

type Known = Pick<Shown, 'findings' | 'layout_out_of_date' | 'proof'> & { sheets: readonly unknown[] }

/** All of it, in working order; nothing where the files are what is meant. */
export function between(project: Known): Between[] {
  return STATIONS.flatMap(({ key }) => [...toMend(project, key), ...toDo(project, key)])
}

function toMend({ findings }: Known, station: StationKey): Between[] {
  const count = findings.filter((finding) => finding.level !== 'note' && stationOf(finding) === station && !isDoneAlone(finding.code)).length
  return count ? [{ station, says: `${count} to mend`, alone: false }] : []
}

/** Laying out anew settles these, and they are told as that. */
function isDoneAlone(code: string): boolean {
  return code === 'out-of-date' || code === 'not-laid-out'
}

function toDo(project: Known, station: StationKey): Between[] {
  if (station === 'lay-out' && project.layout_out_of_date) return [{ station, says: project.sheets.length ? 'out of date' : 'not done yet', alone: true }]
  if (station !== 'prove' || !project.sheets.length || project.proof?.now) return []
  return [{ station, says: project.proof ? 'changed since the proof' : 'not proved', alone: true }]
}

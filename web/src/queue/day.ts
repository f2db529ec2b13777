import type { Schemas } from '../api/client'

/** A time of the machine (s), as it is read at a glance. */
export function cutIn(seconds: number): string {
  const minutes = seconds / 60
  return minutes < 60 ? `${minutes.toFixed(1)} min` : `${Math.floor(minutes / 60)} h ${Math.round(minutes % 60)} min`
}

/** When it is done, by the clock on the wall; another day says which. */
export function timeOf(ends: string): string {
  const at = new Date(ends)
  const clock = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  return at.toDateString() === new Date().toDateString() ? clock : `${at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })} ${clock}`
}

/** What is to be known of a sheet in its turn. */
export function howItStands(turn: Schemas['DayTurn']): string {
  if (turn.lacks) return 'its offcut is gone'
  const stands = turn.released ? 'in the machine' : 'waits'
  return turn.late ? `${stands}, too late` : stands
}

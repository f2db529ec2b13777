import { shallowRef } from 'vue'

import type { Finding } from '../api/client'
import type { Spot } from './spot'
import type { View } from './view'

/** Where a finding's place is on the screen, if the drawing that is open shows it. */
export type Locate = (place: Finding['place']) => Spot | null

/** The drawing that is open says here where places are; margin notes draw their leaders to them. */
export const locate = shallowRef<Locate | null>(null)

/** Makes a drawing the one that leaders run to; wrap in an effect, so that they follow when it moves. */
export function leadersTo(frame: HTMLElement | null, find: (place: Finding['place']) => Spot | null): void {
  if (!frame) return
  locate.value = (place) => {
    const spot = find(place)
    if (!spot) return null
    const at = frame.getBoundingClientRect()
    if (spot.x < 0 || spot.y < 0 || spot.x > at.width || spot.y > at.height) return null
    return { x: at.left + spot.x, y: at.top + spot.y }
  }
}

/** Leaders to what lies on a sheet; wrap in an effect, as `leadersTo`. */
export function leadersToSheet(frame: HTMLElement | null, view: View, sheet: number): void {
  const { toScreen } = view
  leadersTo(frame, ({ kind, id, x, y }) =>
    (kind === 'sheet' || kind === 'file') && id === String(sheet) && typeof x === 'number' && typeof y === 'number' ? toScreen(x, y) : null,
  )
}

import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'

import type { Spot } from './spot'

/** How long (ms) a finger rests until it is held, and how far (px) it may tremble. */
const HELD = 450
const TREMBLES = 8

/** Calls once a finger has been held where it was put down: on a tablet it does what Shift does beside a press. */
export function held(event: PointerEvent, then: () => void): void {
  if (event.pointerType !== 'touch') return
  const own = (e: Event): e is PointerEvent => (e as PointerEvent).pointerId === event.pointerId
  const up = (e: Event): void => { if (own(e)) stop() }
  const move = (e: Event): void => { if (own(e) && Math.hypot(e.clientX - event.clientX, e.clientY - event.clientY) > TREMBLES) stop() }
  const timer = setTimeout(() => { stop(); then() }, HELD)
  const stop = (): void => {
    clearTimeout(timer)
    for (const kind of ['pointerup', 'pointercancel'] as const) window.removeEventListener(kind, up)
    window.removeEventListener('pointermove', move)
  }
  for (const kind of ['pointerup', 'pointercancel'] as const) window.addEventListener(kind, up)
  window.addEventListener('pointermove', move)
}

/** Takes a press away from what it had begun, as the browser does where it scrolls instead. */
export function takenAway({ target, pointerId, pointerType }: PointerEvent): void {
  target?.dispatchEvent(new PointerEvent('pointercancel', { pointerId, pointerType, bubbles: true }))
}

/** What two fingers did since they were told last: where their middle was (px), how far it went, and how much wider they are. */
export interface Pinch {
  at: Spot
  by: Spot
  wider: number
}

/** Two fingers on a frame: what the first one had begun is taken away from it, and the second one begins nothing. */
export function usePinch(frame: Ref<HTMLElement | null>, pinched: (pinch: Pinch) => void): void {
  const fingers = new Map<number, PointerEvent>()

  const both = (): { middle: Spot; far: number } | null => {
    const [a, b] = [...fingers.values()]
    return a && b ? { middle: { x: (a.clientX + b.clientX) / 2, y: (a.clientY + b.clientY) / 2 }, far: Math.max(1, Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY)) } : null
  }

  useEventListener(frame, 'pointerdown', (event) => {
    if (event.pointerType !== 'touch') return
    const [first] = fingers.values()
    fingers.set(event.pointerId, event)
    if (!first) return
    event.stopPropagation()
    if (fingers.size === 2) takenAway(first)
  }, { capture: true })

  useEventListener('pointermove', (event) => {
    if (!fingers.has(event.pointerId)) return
    const before = both()
    fingers.set(event.pointerId, event)
    const now = both()
    const box = frame.value?.getBoundingClientRect()
    if (!before || !now || !box) return
    pinched({
      at: { x: before.middle.x - box.left, y: before.middle.y - box.top },
      by: { x: now.middle.x - before.middle.x, y: now.middle.y - before.middle.y },
      wider: now.far / before.far,
    })
  })

  const up = (event: PointerEvent): void => { if (event.isTrusted) fingers.delete(event.pointerId) }
  useEventListener('pointerup', up)
  useEventListener('pointercancel', up)
}

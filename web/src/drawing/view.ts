import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, reactive, ref, watch, type Ref } from 'vue'

import { usePinch } from './fingers'
import type { Spot } from './spot'

/** A box in mm, y up. */
export interface Box {
  left: number
  bottom: number
  right: number
  top: number
}

/** How a drawing in mm lies on the screen: fitted at first, within so many px to the mm, then moved and enlarged by hand. */
export function useView(frame: Ref<HTMLElement | null>, box: () => Box, room = { x: 136, y: 58 }, most = 12) {
  const { width, height } = useElementSize(frame)
  const zoom = ref(1)
  const shift = reactive({ x: 0, y: 0 })

  const scale = computed(() => {
    const { left, bottom, right, top } = box()
    const across = (width.value - 2 * room.x) / Math.max(0.01, right - left)
    const up = (height.value - 2 * room.y) / Math.max(0.01, top - bottom)
    return Math.max(0.01, Math.min(across, up, most)) * zoom.value
  })

  /** Screen position of the mm origin. */
  const origin = computed(() => {
    const { left, bottom, right, top } = box()
    return {
      x: width.value / 2 - ((left + right) / 2) * scale.value + shift.x,
      y: height.value / 2 + ((bottom + top) / 2) * scale.value + shift.y,
    }
  })

  function toScreen(x: number, y: number): Spot {
    return { x: origin.value.x + x * scale.value, y: origin.value.y - y * scale.value }
  }

  function toDrawing(spot: Spot): Spot {
    return { x: (spot.x - origin.value.x) / scale.value, y: (origin.value.y - spot.y) / scale.value }
  }

  function fit(): void {
    zoom.value = 1
    shift.x = shift.y = 0
  }

  function zoomAt(spot: Spot, factor: number): void {
    const before = toDrawing(spot)
    zoom.value = Math.min(60, Math.max(0.2, zoom.value * factor))
    const after = toScreen(before.x, before.y)
    shift.x += spot.x - after.x
    shift.y += spot.y - after.y
  }

  useEventListener(
    frame,
    'wheel',
    (event: WheelEvent) => {
      event.preventDefault()
      const at = frame.value?.getBoundingClientRect()
      if (at) zoomAt({ x: event.clientX - at.left, y: event.clientY - at.top }, Math.exp(-event.deltaY / 500))
    },
    { passive: false },
  )

  usePinch(frame, ({ at, by, wider }) => {
    zoomAt(at, wider)
    shift.x += by.x
    shift.y += by.y
  })

  watch([width, height], fit)

  /** Follows the pointer until it is let go; tells how far it went, in mm. */
  function drag(event: PointerEvent, moved: (dx: number, dy: number, event: PointerEvent) => void, dropped: (dx: number, dy: number, event: PointerEvent) => void): void {
    const from = { x: event.clientX, y: event.clientY }
    const by = (e: PointerEvent): [number, number] => [(e.clientX - from.x) / scale.value, (from.y - e.clientY) / scale.value]
    const move = (e: PointerEvent): void => { if (e.pointerId === event.pointerId) moved(...by(e), e) }
    // A selection begun by the drag would go on into a number that it passes, and take the keys with it.
    const select = (e: Event): void => e.preventDefault()
    // Taken away by the browser, it is let go where it was taken up.
    const end = (e: PointerEvent): void => {
      if (e.pointerId !== event.pointerId) return
      window.removeEventListener('selectstart', select)
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', end)
      window.removeEventListener('pointercancel', end)
      if (e.type === 'pointerup') dropped(...by(e), e)
      else dropped(0, 0, e)
    }
    window.addEventListener('selectstart', select)
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.addEventListener('pointercancel', end)
  }

  function pan(event: PointerEvent): void {
    const start = { ...shift }
    drag(
      event,
      (dx, dy) => {
        shift.x = start.x + dx * scale.value
        shift.y = start.y - dy * scale.value
      },
      () => undefined,
    )
  }

  const place = computed(() => `translate(${origin.value.x} ${origin.value.y}) scale(${scale.value})`)

  return { width, height, scale, origin, place, toScreen, toDrawing, fit, zoomAt, drag, pan }
}

export type View = ReturnType<typeof useView>


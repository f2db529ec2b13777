import { defineStore } from 'pinia'
import { reactive, ref } from 'vue'

import type { View } from '../drawing/view'
import { typed } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { round } from './beside'
import { snapper, type Drawn } from './snap'
import { useShapes } from './shapes'
import { rounded, stepAt } from './steps'

/** Pixels on the screen within which what is dragged is drawn to an edge, a middle or an equal gap. */
const DRAWN_TO = 7

/**
 * The chosen shapes on their way: while they are dragged only the drawing moves, and it is told where they were drawn
 * to; the server hears of it when they are let go.
 */
export const useDragging = defineStore('dragging', () => {
  const picked = useChoice()
  const shapes = useShapes()
  const workshop = useWorkshop()
  const edits = useEdits()
  const way = reactive({ x: 0, y: 0 })
  const drawn = ref<Drawn[]>([])
  /** Whether a press goes on: what comes up under the pointer meanwhile must not take it. */
  const held = ref(false)
  /** The sizes (mm) of the chosen shape while its corner is drawn. */
  const pulled = ref<Record<string, number> | null>(null)

  function press(event: PointerEvent, view: View): void {
    const shown = picked.partShown
    const moving = new Set(picked.cutoutIds)
    const chosen = shown?.cutouts.filter((c) => moving.has(c.id)) ?? []
    const boxes = chosen.map((c) => c.box)
    if (!shown || !boxes.length) return
    // One comes to lie at a whole number of steps from where it is measured; several go by a whole number of them.
    const [one] = chosen
    const begins = one && chosen.length === 1 ? { x: one.x - one.from_x, y: one.y - one.from_y } : { x: 0, y: 0 }
    const others = shown.cutouts.filter((c) => !moving.has(c.id) && !c.hidden).map((c) => c.box)
    const part = { left: 0, bottom: 0, right: shown.width, top: shown.height }
    const to = snapper(round(boxes), others, part)
    const stopped = (x: number, y: number, free: boolean): { x: number; y: number; drawn: Drawn[] } => {
      if (free) return { x, y, drawn: [] }
      const near = to(x, y, DRAWN_TO / view.scale.value)
      const step = stepAt(view.scale.value, workshop.unit)
      const lies = (across: boolean): boolean => near.drawn.some((line) => line.across === across)
      return { x: lies(true) ? near.x : rounded(x, begins.x, step), y: lies(false) ? near.y : rounded(y, begins.y, step), drawn: near.drawn }
    }
    held.value = true
    view.drag(
      event,
      (x, y, e) => {
        const now = stopped(x, y, e.altKey)
        Object.assign(way, { x: now.x, y: now.y })
        drawn.value = now.drawn
      },
      async (x, y, e) => {
        held.value = false
        drawn.value = []
        const far = Math.hypot(x, y) * view.scale.value > 3
        if (far) {
          const now = stopped(x, y, e.altKey)
          // With Ctrl they stay, and what was dragged is a copy of them.
          if (e.ctrlKey || e.metaKey) await edits.told(shapes.duplicate(typed(now.x, workshop.unit), typed(now.y, workshop.unit)))
          else await shapes.move(now.x, now.y)
        }
        Object.assign(way, { x: 0, y: 0 })
      },
    )
  }

  return { way, drawn, held, pulled, press }
})

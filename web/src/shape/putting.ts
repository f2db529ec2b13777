import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import type { Schemas } from '../api/client'
import { USUAL_SHAPES } from '../api/tables'
import type { Spot } from '../drawing/spot'
import type { Box, View } from '../drawing/view'
import { freeId } from '../state/fresh'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { useMode } from './mode'
import { snapper, type Drawn } from './snap'
import { roundedFrom, standsAt } from './stands'
import { stepAt } from './steps'

/** Pixels on the screen: drawn to what is so near, and a size only from so far on. */
const DRAWN_TO = 7
const DRAGGED = 5

export type Put = keyof typeof USUAL_SHAPES

/** A shape that was taken up to be put on the part: where it would lie, and as large as it is drawn. */
export const usePutting = defineStore('putting', () => {
  const mode = useMode()
  const picked = useChoice()
  const edits = useEdits()
  const workshop = useWorkshop()
  const kind = ref<Put>('round')
  const middle = ref<Spot | null>(null)
  /** The size that was drawn; none while it is of its usual one. */
  const drawn = ref<{ width: number; height: number } | null>(null)
  const lines = ref<Drawn[]>([])

  const usual = computed(() => USUAL_SHAPES[kind.value])
  const others = computed(() => (picked.partShown?.cutouts ?? []).filter(({ hidden }) => !hidden).map(({ id, box, called }) => ({ id, box, called })))
  const stands = computed(() => (middle.value && picked.partShown ? standsAt(middle.value, picked.partShown, others.value) : null))

  function takeUp(next: Put): void {
    const same = mode.mode === 'put a shape' && kind.value === next
    kind.value = next
    forget()
    if (same || mode.mode !== 'put a shape') mode.be('put a shape')
  }

  function forget(): void {
    middle.value = drawn.value = null
    lines.value = []
  }

  /** Goes with the pointer (mm): to middles and edges that are near, else to a whole step from the nearer side. */
  function hover(at: Spot, view: View, free: boolean): void {
    const shown = picked.partShown
    if (!shown) return
    drawn.value = null
    const { width, height } = usual.value
    const box: Box = { left: -width / 2, right: width / 2, bottom: -height / 2, top: height / 2 }
    const part: Box = { left: 0, bottom: 0, right: shown.width, top: shown.height }
    const near = free ? { ...at, drawn: [] } : snapper(box, others.value.map((one) => one.box), part)(at.x, at.y, DRAWN_TO / view.scale.value)
    const step = stepAt(view.scale.value, workshop.unit)
    const lies = (across: boolean): boolean => free || near.drawn.some((line) => line.across === across)
    lines.value = near.drawn
    middle.value = { x: lies(true) ? near.x : roundedFrom(at.x, shown.width, step), y: lies(false) ? near.y : roundedFrom(at.y, shown.height, step) }
  }

  /** From where it was pressed to where the pointer is now (mm): its size, in whole steps. */
  function draw(from: Spot, to: Spot, view: View, free: boolean): void {
    const far = Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y)) * view.scale.value
    if (far < DRAGGED) return
    lines.value = []
    const step = free ? 1e-3 : stepAt(view.scale.value, workshop.unit)
    const whole = (length: number): number => Math.max(step, Math.round(Math.abs(length) / step) * step)
    const begin = free ? from : { x: Math.round(from.x / step) * step, y: Math.round(from.y / step) * step }
    const size = sizeOf(whole(to.x - from.x), whole(to.y - from.y))
    drawn.value = size
    middle.value = { x: begin.x + (Math.sign(to.x - from.x) || 1) * size.width / 2, y: begin.y + (Math.sign(to.y - from.y) || 1) * size.height / 2 }
  }

  /** A shape that cannot be stretched fills what was drawn on its longer side. */
  function sizeOf(width: number, height: number): { width: number; height: number } {
    const { stretches, width: wide, height: high } = usual.value
    if (stretches) return { width, height }
    const by = Math.max(width / wide, height / high)
    return { width: wide * by, height: high * by }
  }

  function putAt(): Schemas['PutAt'] | null {
    if (!middle.value || !stands.value) return null
    const { origin, x_of, y_of } = stands.value
    return { ...middle.value, width: null, height: null, ...drawn.value, origin, x_of, y_of }
  }

  /** Puts it where it is shown, or in the middle of the part; with `more` another one of it is taken up. */
  async function put(where: 'there' | 'in the middle', more = false): Promise<void> {
    const part = picked.part
    if (!part) return
    const id = freeId('cut', part.cutouts)
    const at = where === 'there' ? putAt() : null
    if (!(await edits.change({ do: 'begin cut-out', part: part.id, id, kind: kind.value, of: '', reference: false, at }))) return
    picked.pick({ cutoutId: id })
    forget()
    if (!more) mode.be('choose')
  }

  return { kind, middle, drawn, lines, usual, others, stands, takeUp, forget, hover, draw, put }
})

import { defineStore } from 'pinia'
import { reactive, ref, watch } from 'vue'

import type { CutOut, Schemas } from '../api/client'
import type { Spot } from '../drawing/spot'
import { useChoice } from '../state/choice'

/** What a press on the drawing of a part does: mostly it chooses; else it puts a shape there, draws, or sets places. */
export type Mode = 'choose' | 'put a shape' | 'draw a shape' | 'draw the outline' | 'redraw a piece' | 'make straight' | 'take corners' | 'set to scale'

/** A stroke on its way (mm), what it would become and within how many mm, and how it is to be taken. */
interface Hand {
  drawing: boolean
  stroke: Spot[]
  preview: (Schemas['StrokeShown'] & { within: number }) | null
  why: string
  smooth: number
  closed: boolean
  does: CutOut['does']
}

export const useMode = defineStore('mode', () => {
  const picked = useChoice()
  const mode = ref<Mode>('choose')
  const hand = reactive<Hand>({ drawing: false, stroke: [], preview: null, why: '', smooth: 0.35, closed: true, does: 'cut out' })

  function again(): void {
    Object.assign(hand, { drawing: false, stroke: [], preview: null, why: '' })
  }

  function be(next: Mode): void {
    mode.value = mode.value === next ? 'choose' : next
    again()
  }

  watch(() => picked.partId, () => { mode.value = 'choose' })
  return { mode, hand, be, again }
})

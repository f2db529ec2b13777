import { defineStore } from 'pinia'
import { computed, reactive, toRefs, watch } from 'vue'

import { useWorkshop } from './workshop'

/** What stands in the middle where parts are drawn: the drawing, the dry fit, or one beside the other. */
export type Seen = 'drawing' | 'dry fit' | 'both'

interface Choice {
  partId: string | null
  /** All parts chosen in the rail, the one that is looked at among them. */
  partIds: string[]
  /** The shapes chosen on the part, the one chosen last at the end. */
  cutoutIds: string[]
  jointId: string | null
  stockId: string | null
  /** The sheet that is looked at, from 0, and the copy chosen on it, as `part#number`. */
  sheet: number
  placed: string | null
  seen: Seen
  /** What a thing that is pointed at would join: parts, each with its side where it is one. */
  pointed: { part: string; side: string }[]
}

/** What is chosen in the open project. */
export const useChoice = defineStore('choice', () => {
  const workshop = useWorkshop()
  const now = reactive<Choice>({ partId: null, partIds: [], cutoutIds: [], jointId: null, stockId: null, sheet: 0, placed: null, seen: 'drawing', pointed: [] })

  function pick({ cutoutId, ...choice }: Partial<Choice> & { cutoutId?: string | null }): void {
    Object.assign(now, choice)
    if (choice.partId !== undefined && choice.partIds === undefined) now.partIds = choice.partId === null ? [] : [choice.partId]
    if (cutoutId !== undefined) now.cutoutIds = cutoutId === null ? [] : [cutoutId]
  }

  const cutoutId = computed(() => now.cutoutIds.at(-1) ?? null)

  const part = computed(() => workshop.document?.parts.find((p) => p.id === now.partId) ?? null)
  const partShown = computed(() => workshop.shown?.parts.find((p) => p.id === now.partId) ?? null)
  const cutout = computed(() => part.value?.cutouts.find((c) => c.id === cutoutId.value) ?? null)
  const joint = computed(() => workshop.document?.joints.find((j) => j.id === now.jointId) ?? null)
  const stock = computed(() => {
    const stocks = workshop.document?.stocks ?? []
    const wanted = now.stockId ?? part.value?.stock
    return stocks.find((s) => s.id === wanted) ?? stocks[0] ?? null
  })

  /** The machine that cuts, and what is known of the stock on it. */
  const machine = computed(() => workshop.document?.machines.find((m) => m.id === workshop.document?.machine) ?? null)
  const known = computed(() => stock.value?.on.find((k) => k.machine === workshop.document?.machine) ?? stock.value)

  /** Lets go of what is not there any more. */
  function tidy(): void {
    const document = workshop.document
    if (!document) pick({ partId: null, cutoutIds: [], jointId: null, stockId: null, placed: null, sheet: 0 })
    if (!part.value) pick({ partId: document?.parts[0]?.id ?? null })
    const known = new Set(document?.parts.map((p) => p.id))
    if (now.partIds.some((id) => !known.has(id))) now.partIds = now.partIds.filter((id) => known.has(id))
    const there = new Set(part.value?.cutouts.map((c) => c.id))
    if (now.cutoutIds.some((id) => !there.has(id))) now.cutoutIds = now.cutoutIds.filter((id) => there.has(id))
    if (!joint.value) now.jointId = null
    if (!document?.stocks.some((s) => s.id === now.stockId)) now.stockId = null
    now.sheet = Math.min(now.sheet, Math.max(0, (workshop.shown?.sheets.length ?? 0) - 1))
  }
  watch(() => workshop.shown, tidy, { immediate: true, flush: 'sync' })

  return { ...toRefs(now), cutoutId, part, partShown, cutout, joint, stock, machine, known, pick }
})

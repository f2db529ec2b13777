import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { client, sentence, type Command, type Document, type Finding, type Joint, type JointChange, type Part, type Shown, type Stock, type Trouble } from '../api/client'

/** Why an edit was not taken: a sentence, and the value that would be. */
export interface Refusal {
  message: string
  mend: Finding['mend']
}

/** What stands in the middle where parts are drawn: the drawing, the dry fit, or one beside the other. */
export type Seen = 'drawing' | 'dry fit' | 'both'

/** The open project as the server last told it, and what is chosen in it. */
export const useWorkshop = defineStore('workshop', () => {
  const shown = shallowRef<Shown | null>(null)
  const trouble = ref('')
  const busy = ref(0)

  const partId = ref<string | null>(null)
  const cutoutId = ref<string | null>(null)
  const jointId = ref<string | null>(null)
  const stockId = ref<string | null>(null)
  const sheet = ref(0)
  const seen = ref<Seen>('drawing')
  const placed = ref<string | null>(null)

  const document = computed(() => shown.value?.document ?? null)
  const unit = computed(() => document.value?.unit ?? 'mm')
  const part = computed(() => document.value?.parts.find((p) => p.id === partId.value) ?? null)
  const partShown = computed(() => shown.value?.parts.find((p) => p.id === partId.value) ?? null)
  const cutout = computed(() => part.value?.cutouts.find((c) => c.id === cutoutId.value) ?? null)
  const joint = computed(() => document.value?.joints.find((j) => j.id === jointId.value) ?? null)
  const stock = computed(() => {
    const stocks = document.value?.stocks ?? []
    const wanted = stockId.value ?? part.value?.stock
    return stocks.find((s) => s.id === wanted) ?? stocks[0] ?? null
  })

  function take(next: Shown): void {
    shown.value = next
    if (!next.document.parts.some((p) => p.id === partId.value)) partId.value = next.document.parts[0]?.id ?? null
    if (!next.document.joints.some((j) => j.id === jointId.value)) jointId.value = null
    if (!next.document.stocks.some((s) => s.id === stockId.value)) stockId.value = null
    sheet.value = Math.min(sheet.value, Math.max(0, next.sheets.length - 1))
    if (next.looking) void look(next.slug, next.version)
  }

  /** Asks for the findings with those mends that the answer to an edit does not wait for. */
  async function look(slug: string, version: number): Promise<void> {
    const { data } = await client.GET('/api/projects/{slug}/findings', { params: { path: { slug } } })
    const now = shown.value
    if (data?.version !== version || now?.slug !== slug || now.version !== version) return
    shown.value = { ...now, findings: data.findings, looking: false }
  }

  async function open(slug: string): Promise<void> {
    trouble.value = ''
    const { data, error } = await client.GET('/api/projects/{slug}', { params: { path: { slug } } })
    if (data) {
      if (shown.value?.slug !== data.slug) forget()
      take(data)
    } else trouble.value = sentence(error)
  }

  function forget(): void {
    shown.value = null
    partId.value = cutoutId.value = jointId.value = stockId.value = placed.value = null
    sheet.value = 0
  }

  // Edits go one after the other, each on the version that the one before it left.
  let last: Promise<unknown> = Promise.resolve()

  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    busy.value++
    const next = last.then(work, work).finally(() => busy.value--)
    last = next.catch(() => undefined)
    return next
  }

  /**
   * Stores an edit; answers null when it is stored, or why it is not. The command is made when its turn comes, from
   * the document as it stands then, so that two quick edits of one part never undo each other.
   */
  function edit(make: Command | ((document: Document) => Command | null)): Promise<Refusal | null> {
    return inTurn(async () => {
      const now = shown.value
      if (!now) return { message: 'No project is open.', mend: null }
      const command = typeof make === 'function' ? make(now.document) : make
      if (!command) return { message: 'That is not in the project any more.', mend: null }
      const path = { slug: now.slug }
      const body = { version: now.version, command }
      try {
        const { data, error } = await client.POST('/api/projects/{slug}/edit', { params: { path }, body })
        if (data) {
          take(data)
          trouble.value = ''
          return null
        }
        return refused(error)
      } catch (fault) {
        return refused(fault)
      }
    })
  }

  function refused(error: unknown): Refusal {
    const told = error as Partial<Trouble> | undefined
    if (told?.current) {
      take(told.current)
      trouble.value = told.message ?? ''
    }
    return { message: sentence(error), mend: told?.findings?.[0]?.mend ?? null }
  }

  function editPart(id: string, change: (part: Part) => Partial<Part>): Promise<Refusal | null> {
    return edit((document) => {
      const found = document.parts.find((p) => p.id === id)
      return found ? { do: 'put part', part: { ...found, ...change(found) } } : null
    })
  }

  function editStock(id: string, change: (stock: Stock) => Partial<Stock>): Promise<Refusal | null> {
    return edit((document) => {
      const found = document.stocks.find((s) => s.id === id)
      return found ? { do: 'put stock', stock: { ...found, ...change(found) } } : null
    })
  }

  function editJoint(id: string, change: (joint: Joint) => JointChange): Promise<Refusal | null> {
    return edit((document) => {
      const found = document.joints.find((j) => j.id === id)
      return found ? { do: 'put joint', joint: { ...found, ...change(found) } as Joint } : null
    })
  }

  /** For an edit that has no field to show its refusal beside: says it on the page. Tells whether it was stored. */
  async function told(answer: Promise<Refusal | null>): Promise<boolean> {
    const refusal = await answer
    if (refusal) trouble.value = refusal.message
    return refusal === null
  }

  function change(command: Command): Promise<boolean> {
    return told(edit(command))
  }

  function step(way: 'undo' | 'redo'): Promise<void> {
    return inTurn(async () => {
      const now = shown.value
      if (!now) return
      const params = { path: { slug: now.slug } }
      const body = { version: now.version }
      try {
        const { data, error } =
          way === 'undo'
            ? await client.POST('/api/projects/{slug}/undo', { params, body })
            : await client.POST('/api/projects/{slug}/redo', { params, body })
        if (!data) throw error
        take(data)
        trouble.value = ''
      } catch (error) {
        trouble.value = refused(error).message
      }
    })
  }

  return {
    shown, document, unit, trouble, busy,
    partId, cutoutId, jointId, stockId, sheet, placed, seen,
    part, partShown, cutout, joint, stock,
    open, take, edit, editPart, editStock, editJoint, told, change, step,
  }
})

import { defineStore } from 'pinia'
import { ref } from 'vue'

import { client, type Command, type Document, type Joint, type JointChange, type Known, type Mend, type Part, type Stock, type Trouble } from '../api/client'
import { Queue } from './queue'
import { refusal, refusalOf, type Refusal } from './refusal'
import { useWorkshop } from './workshop'

/** Edits of the open project: one after the other, each on the version that the one before it left. */
export const useEdits = defineStore('edits', () => {
  const workshop = useWorkshop()
  const busy = ref(0)
  const queue = new Queue()

  /** Does something once what was asked before it is done. */
  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    busy.value++
    return queue.inTurn(work).finally(() => busy.value--)
  }

  /**
   * Stores an edit; answers null when it is stored, or why it is not. The command is made when its turn comes, from
   * the document as it stands then, so that two quick edits of one part never undo each other.
   */
  function edit(make: Command | ((document: Document) => Command | null)): Promise<Refusal | null> {
    return inTurn(async () => {
      const now = workshop.shown
      if (!now) return refusal('No project is open.')
      const command = typeof make === 'function' ? make(now.document) : make
      if (!command) return refusal('That is not in the project any more.')
      const path = { slug: now.slug }
      const body = { version: now.version, command }
      try {
        const { data, error } = await client.POST('/api/projects/{slug}/edit', { params: { path }, body })
        if (!data) return refused(error)
        await workshop.change(data)
        workshop.say(data.said, false)
        return null
      } catch (fault) {
        return refused(fault)
      }
    })
  }

  function refused(error: unknown): Refusal {
    const told = error as Partial<Trouble> | undefined
    if (told?.current) {
      workshop.take(told.current)
      workshop.say(told.message ?? '')
    }
    return refusalOf(error)
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

  /** Changes what is known of a stock on the machine in use. */
  function editKnown(id: string, change: (known: Known) => Omit<Extract<Command, { do: 'set known' }>, 'do' | 'stock'>): Promise<Refusal | null> {
    return edit((document) => {
      const stock = document.stocks.find((s) => s.id === id)
      const known = stock?.on.find(({ machine }) => machine === document.machine) ?? stock
      return known ? { do: 'set known', stock: id, ...change(known) } : null
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
    const why = await answer
    if (why) workshop.say(why.message)
    return why === null
  }

  function change(command: Command): Promise<boolean> {
    return told(edit(command))
  }

  /** Counts what lies on a sheet (from 1) as cut; what remains of it goes to the shelf. */
  function cutSheet(number: number): Promise<Refusal | null> {
    return inTurn(async () => {
      const now = workshop.shown
      if (!now) return refusal('No project is open.')
      const params = { path: { slug: now.slug, number } }
      try {
        const { data, error } = await client.POST('/api/projects/{slug}/sheets/{number}/cut', { params, body: { version: now.version } })
        if (!data) return refused(error)
        await workshop.change(data)
        return null
      } catch (fault) {
        return refused(fault)
      }
    })
  }

  /** Applies what a finding offers: a mend is an edit, ready made by the server. */
  function mend({ command }: Mend): Promise<boolean> {
    return change(command as Command)
  }

  function step(way: 'undo' | 'redo'): Promise<void> {
    return inTurn(async () => {
      const now = workshop.shown
      if (!now) return
      const params = { path: { slug: now.slug } }
      const body = { version: now.version }
      try {
        const { data, error } =
          way === 'undo'
            ? await client.POST('/api/projects/{slug}/undo', { params, body })
            : await client.POST('/api/projects/{slug}/redo', { params, body })
        if (!data) throw error
        await workshop.change(data)
        workshop.say('')
      } catch (error) {
        workshop.say(refused(error).message)
      }
    })
  }

  return { busy, inTurn, edit, editPart, editStock, editKnown, editJoint, told, change, mend, step, cutSheet }
})

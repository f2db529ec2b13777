import { useEventListener } from '@vueuse/core'
import { ref, shallowRef } from 'vue'

import { client, type Beside, type Placement } from '../api/client'

/** Pixels on the screen within which a dragged part is drawn to a gap or a margin. */
const DRAWN_TO = 9

/**
 * What a dragged part lies beside, as the server sees it: one question at a time, the latest place last. The part
 * follows the pointer meanwhile, and keeps to a gap that was found as long as the pointer stays near it.
 */
export function useBeside() {
  const beside = shallowRef<Beside | null>(null)
  const free = ref(false)
  let asking = false
  let next: (() => Promise<void>) | null = null

  // With Alt nothing is drawn anywhere.
  useEventListener(window, 'pointermove', (event) => { free.value = event.altKey })

  function reach(scale: number): number {
    return free.value ? 0 : Math.min(50, DRAWN_TO / scale)
  }

  async function asked(slug: string, placement: Placement, scale: number): Promise<Beside | null> {
    const { data } = await client.POST('/api/projects/{slug}/beside', { params: { path: { slug } }, body: { placement, reach: reach(scale) } })
    return data ?? null
  }

  function ask(slug: string, placement: Placement, scale: number): void {
    next = async () => {
      beside.value = await asked(slug, placement, scale).catch(() => null)
    }
    if (!asking) void carryOn()
  }

  async function carryOn(): Promise<void> {
    asking = true
    while (next) {
      const now = next
      next = null
      await now()
    }
    asking = false
  }

  /** Where the part is shown when the pointer has it at x, y. */
  function held(x: number, y: number, scale: number): { x: number; y: number } {
    const found = beside.value
    const near = reach(scale)
    if (!found) return { x, y }
    return { x: Math.abs(found.x - x) <= near ? found.x : x, y: Math.abs(found.y - y) <= near ? found.y : y }
  }

  function forget(): void {
    next = null
    beside.value = null
  }

  return { beside, ask, asked, held, forget }
}

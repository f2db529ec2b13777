import { ref, shallowRef } from 'vue'

import { client, sentence, type Run } from '../api/client'

/** How often it is asked for (ms): while it goes on, and while others are carried out before it. */
const OFTEN = 150
const WAITING = 700

/** Long work on the server: start it, follow it, stop it. */
export function useRun(kind: 'nest' | 'prove' | 'fit' | 'read') {
  const run = shallowRef<Run | null>(null)
  const going = ref(false)
  const trouble = ref('')
  /** Whether it was asked to stop: it then goes on for as long as its present step takes. */
  const stopping = ref(false)

  async function start(slug: string, seconds = 10): Promise<Run | null> {
    const params = { path: { slug } }
    return carryOn(async () => {
      const { data, error } =
        kind === 'nest'
          ? await client.POST('/api/projects/{slug}/nest', { params, body: { seconds } })
          : kind === 'prove'
            ? await client.POST('/api/projects/{slug}/prove', { params })
            : await client.POST('/api/projects/{slug}/fit', { params })
      if (!data) throw error
      run.value = data
      if (stopping.value) await stop()
      return follow(data.id)
    })
  }

  /** Follows work that was begun elsewhere. */
  async function attend(id: number): Promise<Run | null> {
    return carryOn(() => follow(id))
  }

  async function carryOn(work: () => Promise<Run>): Promise<Run | null> {
    going.value = true
    run.value = null
    stopping.value = false
    trouble.value = ''
    try {
      return await work()
    } catch (error) {
      trouble.value = sentence(error)
      return null
    } finally {
      going.value = false
    }
  }

  async function follow(id: number): Promise<Run> {
    for (;;) {
      const { data, error } = await client.GET('/api/runs/{run_id}', { params: { path: { run_id: id } } })
      if (!data) throw error
      run.value = data
      trouble.value = ''
      if (data.state === 'failed') trouble.value = data.message
      if (data.state !== 'waiting' && data.state !== 'running') return data
      await new Promise((resolve) => setTimeout(resolve, data.ahead ? WAITING : OFTEN))
    }
  }

  async function stop(): Promise<void> {
    stopping.value = true
    const asked = run.value
    // Stopped before the server has said that it begun: that is told to it then.
    if (!asked || !going.value) return
    try {
      await client.POST('/api/runs/{run_id}/stop', { params: { path: { run_id: asked.id } } })
    } catch (error) {
      stopping.value = false
      trouble.value = sentence(error)
    }
  }

  return { run, going, stopping, trouble, start, attend, stop }
}

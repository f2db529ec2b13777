import { ref, shallowRef } from 'vue'

import { client, sentence, type Run } from '../api/client'

/** Long work on the server: start it, follow it, stop it. */
export function useRun(kind: 'nest' | 'prove' | 'fit') {
  const run = shallowRef<Run | null>(null)
  const going = ref(false)
  const trouble = ref('')

  async function start(slug: string, seconds = 10): Promise<Run | null> {
    going.value = true
    trouble.value = ''
    const params = { path: { slug } }
    try {
      const { data, error } =
        kind === 'nest'
          ? await client.POST('/api/projects/{slug}/nest', { params, body: { seconds } })
          : kind === 'prove'
            ? await client.POST('/api/projects/{slug}/prove', { params })
            : await client.POST('/api/projects/{slug}/fit', { params })
      if (!data) throw error
      run.value = data
      return await follow(data.id)
    } catch (error) {
      trouble.value = sentence(error)
      return null
    } finally {
      going.value = false
    }
  }

  /** How the run stands; while the server is away that is said, and it is asked again. */
  async function asked(id: number) {
    for (;;) {
      try {
        return await client.GET('/api/runs/{run_id}', { params: { path: { run_id: id } } })
      } catch {
        trouble.value = 'The server does not answer; it is asked again.'
        await new Promise((resolve) => setTimeout(resolve, 1000))
      }
    }
  }

  async function follow(id: number): Promise<Run> {
    for (;;) {
      const { data, error } = await asked(id)
      if (!data) throw error
      run.value = data
      trouble.value = ''
      if (data.state === 'failed') trouble.value = data.message
      if (data.state !== 'waiting' && data.state !== 'running') return data
      await new Promise((resolve) => setTimeout(resolve, 150))
    }
  }

  async function stop(): Promise<void> {
    if (run.value) await client.POST('/api/runs/{run_id}/stop', { params: { path: { run_id: run.value.id } } })
  }

  return { run, going, trouble, start, stop }
}

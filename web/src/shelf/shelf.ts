import { ref } from 'vue'

import { client, sentence, type Schemas } from '../api/client'

export type Offcut = Schemas['OffcutListed']

/** The offcuts on the shelf, the newest of each stock first. */
export function useShelf() {
  const offcuts = ref<Offcut[]>([])
  const trouble = ref('')

  async function look(): Promise<void> {
    const { data, error } = await client.GET('/api/shelf')
    if (data) offcuts.value = data
    else trouble.value = sentence(error)
  }

  async function discard(id: number): Promise<void> {
    await client.DELETE('/api/shelf/{offcut_id}', { params: { path: { offcut_id: id } } })
    await look()
  }

  return { offcuts, trouble, look, discard }
}

/** The corners of an offcut as an SVG polygon has them, y turned down. */
export function corners({ outline, height }: Offcut): string {
  return outline.map(({ x, y }) => `${x},${height - y}`).join(' ')
}

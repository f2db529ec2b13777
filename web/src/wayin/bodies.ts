import { ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { plain } from '../kit/units'

export type Body = Schemas['BodyShown']

/** The bodies of a mesh, read once they are asked for; and the one that is chosen. */
export function useBodies(id: number) {
  const bodies = shallowRef<Body[] | null>(null)
  const chosen = ref<number | null>(null)
  const trouble = ref('')

  async function load(): Promise<void> {
    if (bodies.value) return
    try {
      const { data, error } = await client.GET('/api/brought/{file_id}/bodies', { params: { path: { file_id: id } } })
      if (!data) throw error
      bodies.value = data
    } catch (fault) {
      trouble.value = sentence(fault)
    }
  }

  return { bodies, chosen, trouble, load }
}

/** How many bodies there are, and how many of them are cut from a sheet. */
export function counted(bodies: Body[]): string {
  const plates = bodies.filter((body) => body.thick !== null && !body.bends).length
  const bent = bodies.filter((body) => body.bends).length
  const many = bodies.length === 1 ? '1 body' : `${bodies.length} bodies`
  return `${many}, ${plates} of them plates${bent ? `, ${bent} bent ${bent === 1 ? 'sheet' : 'sheets'}` : ''}`
}

function kind(body: Body): string {
  if (!body.bends) return 'a plate'
  return `a sheet with ${body.bends} ${body.bends === 1 ? 'bend' : 'bends'}`
}

/** What a body is, in a line. */
export function says(body: Body): string {
  const size = body.size.map((mm) => plain(mm, 'mm')).join(' × ')
  const plate = body.thick === null ? `no plate: ${body.why}` : `${kind(body)} ${plain(body.thick, 'mm')} mm thick`
  const filled = body.filled ? `; ${body.filled} missing ${body.filled === 1 ? 'triangle' : 'triangles'} filled in` : ''
  return `${size} mm, ${plate}${filled}${body.whole ? '' : '; shown as its box'}`
}

import { useRouter } from 'vue-router'

import { client, type Schemas } from '../api/client'
import { checkSize } from '../api/limits'
import { reach } from '../api/reach'

/** Files that are drawings or meshes, by what they end with. */
export const DRAWINGS = '.svg,.dxf,.stl,.obj,.ply,.3mf,.glb,image/svg+xml'

const isDrawing = (file: File): boolean => /\.(svg|dxf|stl|obj|ply|3mf|glb)$/i.test(file.name)

/** Brings drawings into a project, or into a new one named after the first; leads to the way in of the last. */
export function useBring() {
  const router = useRouter()

  async function bring(files: File[], slug: string | null): Promise<void> {
    const drawings = files.filter(isDrawing)
    const other = files.find((file) => !isDrawing(file))
    if (other) throw { message: `${other.name} is neither a drawing (SVG, DXF) nor a mesh (STL, OBJ, PLY, 3MF, GLB).` }
    for (const file of drawings) await checkSize(file, 'drawing')
    let into = slug
    let last: Schemas['BroughtListed'] | null = null
    for (const file of drawings) {
      into ??= await begun(file)
      last = await sent(file, into)
    }
    if (last) await lookAt(into ?? '', last)
  }

  /** Brings a newer file than one that is there. */
  async function again(file: File, slug: string, earlier: number): Promise<void> {
    if (!isDrawing(file)) throw { message: `${file.name} is neither a drawing (SVG, DXF) nor a mesh (STL, OBJ, PLY, 3MF, GLB).` }
    await checkSize(file, 'drawing')
    const kept = await put(`/api/brought/${earlier}/again`, file)
    await lookAt(slug, kept)
  }

  /** Leads to a file that is being read. */
  async function lookAt(slug: string, { id, run }: Schemas['BroughtListed']): Promise<void> {
    await router.push({ path: `/projects/${slug}/way-in/${id}`, query: run === null ? {} : { run } })
  }

  return { bring, again }
}

async function begun(file: File): Promise<string> {
  const { data, error } = await client.POST('/api/projects', { body: { name: file.name.replace(/\.\w+$/, '').slice(0, 80) || 'Brought' } })
  if (!data) throw error
  return data.slug
}

function sent(file: File, slug: string): Promise<Schemas['BroughtListed']> {
  return put(`/api/projects/${slug}/brought`, file)
}

async function put(path: string, file: File): Promise<Schemas['BroughtListed']> {
  const answer = await reach(`${path}?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file })
  const told = (await answer.json()) as Schemas['BroughtListed'] & { message?: string }
  if (!answer.ok) throw told
  return told
}

import { ref, shallowRef, watch } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { reach } from '../api/reach'

export type Picture = Schemas['PictureShown']
export type PictureMark = Schemas['PictureMark']

/** Whether a picture lies under the drawings of the open project. */
export const lies = ref(false)

/** The picture of the bed that belongs to a project, and what is done with it. */
export function usePicture(slug: () => string | undefined) {
  const picture = shallowRef<Picture | null>(null)
  const trouble = ref('')

  watch(picture, (now) => { lies.value = Boolean(now?.flat) })
  watch(slug, async (now) => {
    picture.value = null
    if (!now) return
    const { data } = await client.GET('/api/projects/{slug}/picture', { params: { path: { slug: now } } })
    picture.value = data ?? null
  }, { immediate: true })

  /** Where the pixels are, as they were taken or laid flat; another one after every change. */
  function pixels(flat: boolean): string {
    return `/api/projects/${slug()}/picture.jpg?flat=${flat}&of=${picture.value?.stamp ?? ''}`
  }

  async function bring(file: File): Promise<void> {
    trouble.value = ''
    const answer = await reach(`/api/projects/${slug()}/picture`, { method: 'POST', body: file })
    const told = (await answer.json()) as Picture & { message?: string }
    if (answer.ok) picture.value = told
    else trouble.value = sentence(told)
  }

  async function lay(marks: PictureMark[], distance: number | null): Promise<boolean> {
    const params = { path: { slug: slug() ?? '' } }
    const { data, error } = await client.POST('/api/projects/{slug}/picture/marks', { params, body: { marks, distance } })
    trouble.value = data ? '' : sentence(error)
    if (data) picture.value = data
    return data !== undefined
  }

  async function remove(): Promise<void> {
    await client.DELETE('/api/projects/{slug}/picture', { params: { path: { slug: slug() ?? '' } } })
    picture.value = null
  }

  return { picture, trouble, pixels, bring, lay, remove }
}

import { computed, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import type { Spot } from '../drawing/spot'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'

export type Prepared = Schemas['PreparedShown']
export type Row = Prepared['rows'][number]
export type Task = Schemas['Task']

/** The chosen sheet on its machine, as the server makes it ready after every edit. */
export function usePrepared() {
  const workshop = useWorkshop()
  const picked = useChoice()
  const prepared = shallowRef<Prepared | null>(null)
  const trouble = ref('')

  const sheet = computed(() => workshop.document?.layout.sheets[picked.sheet] ?? null)

  watch(
    () => [workshop.shown?.slug, workshop.shown?.version, picked.sheet],
    async () => {
      const slug = workshop.shown?.slug
      const version = workshop.shown?.version
      trouble.value = ''
      if (!slug || !sheet.value) {
        prepared.value = null
        return
      }
      const params = { path: { slug, number: picked.sheet + 1 } }
      const { data, error } = await client.GET('/api/projects/{slug}/prepared/{number}', { params })
      if (workshop.shown?.version !== version) return
      prepared.value = data ?? null
      if (!data) trouble.value = sentence(error)
    },
    { immediate: true },
  )

  return { prepared, trouble, sheet }
}

/** What draws the sheet where it lies on the bed, y turned down. */
export function liesAt({ cos, sin, x, y }: Prepared['lies']): string {
  return `matrix(${cos} ${-sin} ${sin} ${cos} ${x} ${-y})`
}

/** A place of the bed (mm) from one of the sheet, and back. */
export function onBed({ cos, sin, x, y }: Prepared['lies'], at: Spot): Spot {
  return { x: cos * at.x - sin * at.y + x, y: sin * at.x + cos * at.y + y }
}

export function onSheet({ cos, sin, x, y }: Prepared['lies'], at: Spot): Spot {
  const [across, up] = [at.x - x, at.y - y]
  return { x: cos * across + sin * up, y: cos * up - sin * across }
}

/** A time as one says it: `48 s`, `3 min 48 s`, `1 h 4 min`. */
export function spoken(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole < 60) return seconds < 10 ? `${seconds.toFixed(1)} s` : `${whole} s`
  if (whole < 3600) return `${Math.floor(whole / 60)} min ${whole % 60} s`
  return `${Math.floor(whole / 3600)} h ${Math.floor((whole % 3600) / 60)} min`
}

export function taskKey({ stage, part, copy_number }: Task): string {
  return `${stage}/${part}#${copy_number}`
}

/** A row is the same one wherever it is moved to: it is known by its first task. */
export function rowKey(prepared: Prepared, { jobs }: Row): string {
  const first = prepared.jobs[jobs[0] ?? 0]
  return first ? taskKey(first.task) : ''
}

import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Changes, type Schemas, type Shown } from '../api/client'
import { sizeNames, type SizeName } from '../kit/sizeNames'
import { unitShown } from '../kit/unit'
import { withUnit } from '../kit/units'
import { withChanges } from './changes'

/** The open project as the server last told it. */
export const useWorkshop = defineStore('workshop', () => {
  const shown = shallowRef<Shown | null>(null)
  const trouble = ref('')
  const wrong = ref(true)

  const document = computed(() => shown.value?.document ?? null)
  const unit = computed(() => document.value?.unit ?? 'mm')
  watch(unit, (now) => { unitShown.value = now }, { immediate: true, flush: 'sync' })
  watch(shown, (now) => { sizeNames.value = now ? namesOf(now) : [] })

  /** What sizes of a project may use by name, with what it comes to. */
  function namesOf({ document: found, stocks, values }: Shown): SizeName[] {
    const named = found.names.map(({ name, note }) => ({ name, says: `${withUnit(values[`names/${name}`] ?? 0, found.unit)}${note ? `, ${note}` : ''}` }))
    const thick = Object.entries(stocks).map(([id, { thickness }]) => ({ name: `${id}.thickness`, says: withUnit(thickness, found.unit) }))
    const own = ['thickness', 'width', 'height', 'kerf', 'clearance'].map((name) => ({ name, says: 'of the part' }))
    return [...named, ...own, ...thick]
  }

  /** Says on the page what went wrong, or is only worth knowing; nothing, once it is understood. */
  function say(text: string, isWrong = true): void {
    trouble.value = text
    wrong.value = isWrong
  }

  /** What is left whole of each sheet, once it was looked for. */
  const left = shallowRef<(Schemas['RestShown'] | null)[]>([])

  /** Takes what the server tells; an answer that was overtaken by that to a later edit is let go. */
  function take(next: Shown): void {
    const now = shown.value
    if (now?.slug === next.slug && now.version > next.version) return
    left.value = []
    shown.value = next.looking && now?.slug === next.slug ? withEarlier(next, now) : next
    clearTimeout(soon)
    if (next.looking) soon = window.setTimeout(() => void look(next.slug, next.version), now ? QUIET : 0)
  }

  // Of a burst of edits the last one is looked at.
  const QUIET = 60
  let soon = 0

  /** What was said of the machine stays until it is looked at anew. */
  function withEarlier(next: Shown, before: Shown): Shown {
    const earlier = before.findings.filter(({ place }) => place?.kind === 'preparation')
    return { ...next, findings: [...next.findings, ...earlier] }
  }

  /** Takes what an edit changed; where it is not known what that was before, all is asked for. */
  async function change(changes: Changes): Promise<void> {
    const now = shown.value
    if (now?.slug !== changes.slug) return
    if (now.version === changes.since) take(withChanges(now, changes))
    else if (now.version < changes.version) await open(changes.slug)
  }

  /** Asks for what the answer to an edit does not wait for. */
  async function look(slug: string, version: number): Promise<void> {
    const { data } = await client.GET('/api/projects/{slug}/findings', { params: { path: { slug } } })
    const now = shown.value
    if (data?.version !== version || now?.slug !== slug || now.version !== version) return
    left.value = data.left
    shown.value = { ...now, proof: data.proof, findings: data.findings, looking: false }
  }

  /** Asks what is known of the project by now, when long work on it is over. */
  async function lookAgain(): Promise<void> {
    if (shown.value) await look(shown.value.slug, shown.value.version)
  }

  async function open(slug: string): Promise<void> {
    say('')
    const { data, error } = await client.GET('/api/projects/{slug}', { params: { path: { slug } } })
    if (!data) {
      say(sentence(error))
      return
    }
    // What was chosen in another project is let go of first.
    if (shown.value?.slug !== data.slug) shown.value = null
    take(data)
  }

  /** Takes the open project as it is now, since somebody else has changed it. */
  async function follow(): Promise<void> {
    const slug = shown.value?.slug
    const { data } = slug ? await client.GET('/api/projects/{slug}', { params: { path: { slug } } }) : { data: undefined }
    if (data && data.slug === shown.value?.slug) take(data)
  }

  return { shown, left, document, unit, trouble, wrong, say, open, take, change, follow, lookAgain }
})

import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import type { Look } from './look'

export type Into = NonNullable<Schemas['TakingParts']['into']>

/** What of a drawing is chosen to be taken, as what; and taking it. */
export function useTaking(id: number, look: Look) {
  const router = useRouter()
  const workshop = useWorkshop()
  const picked = useChoice()
  const chosen = ref<number[]>([])
  const gone = ref<string[]>([])
  const into = ref<Into>('parts')
  const onto = ref<string | null>(picked.partId)
  const stockId = ref<string | null>(null)
  /** Stocks by the thickness that parts are drawn for; an empty one is a new one of it. */
  const stocks = ref<Record<string, string>>({})
  const going = ref(false)
  const stock = computed(() => workshop.document?.stocks.find((s) => s.id === (stockId.value ?? workshop.document?.stocks[0]?.id)) ?? null)

  watch(look.shown, (now, before) => {
    if (now) stocks.value = Object.fromEntries(now.thicknesses.map(({ key, stock: near }) => [key, stocks.value[key] ?? near ?? '']))
    if (!now || now.parts.length === before?.parts.length) return
    if (!before && now.again) into.value = 'again'
    chosen.value = into.value === 'again' ? differing(now.again) : []
  })
  watch(into, (way) => { chosen.value = way === 'again' ? differing(look.shown.value?.again ?? null) : [] })

  function differing(again: Schemas['AgainShown'] | null): number[] {
    return (again?.rows ?? []).flatMap((row) => (row.found !== null && row.what !== 'same' ? [row.found] : []))
  }

  function choose(index: number): void {
    chosen.value = without(chosen.value, index) ?? [...chosen.value, index]
  }

  function remove(part: string): void {
    gone.value = without(gone.value, part) ?? [...gone.value, part]
  }

  async function take(): Promise<void> {
    const project = workshop.shown
    if (!project) return
    going.value = true
    const all = !chosen.value.length && into.value !== 'again'
    const body = {
      version: project.version, choices: look.choices.value, parts: all ? null : chosen.value, into: into.value, stock: stock.value?.id ?? '', stocks: stocks.value, onto: onto.value ?? '', gone: gone.value,
    }
    try {
      const { data, error } = await client.POST('/api/brought/{file_id}/take', { params: { path: { file_id: id } }, body })
      if (!data) throw error
      await workshop.change(data)
      picked.pick({ partId: data.document_parts.changed[0]?.id ?? null, cutoutId: null })
      await router.push(`/projects/${project.slug}/shape`)
    } catch (fault) {
      look.trouble.value = sentence(fault)
    } finally {
      going.value = false
    }
  }

  return { chosen, gone, into, onto, stockId, stock, stocks, going, choose, remove, take }
}

/** The list less a thing; null where it is not in it. */
function without<T>(list: T[], thing: T): T[] | null {
  return list.includes(thing) ? list.filter((one) => one !== thing) : null
}

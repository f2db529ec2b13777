import { useRoute, useRouter } from 'vue-router'

import { FORMATS } from '../api/tables'
import { STATIONS, type StationKey } from '../frame/stations'
import { handbookIsOpen } from '../frame/handbook/open'
import { pageOf, sayings } from '../frame/handbook/pages'
import { plain, withUnit } from '../kit/units'
import { PUT } from '../shape/holes'
import { usePutting } from '../shape/putting'
import { useAddPart } from '../state/addPart'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import type { Findable } from './matching'
import { goToCalled, onPage } from './onPage'
import { SETTINGS } from './settings'

/** All that can be gone to and done in the open project: asked for anew whenever it is looked for. */
export function useFindables(): { findables: () => Findable[]; ofTheHandbook: () => Promise<Findable[]> } {
  const workshop = useWorkshop()
  const picked = useChoice()
  const edits = useEdits()
  const addPart = useAddPart()
  const putting = usePutting()
  const router = useRouter()
  const route = useRoute()

  const at = (key: string): string => `/projects/${String(route.params.slug)}/${key}`
  const here = (): string => String(route.params.station)
  const nameOf = (key: StationKey): string => STATIONS.find((station) => station.key === key)?.name ?? key

  async function goIn(station: StationKey, choice: Parameters<typeof picked.pick>[0] = {}): Promise<void> {
    picked.pick(choice)
    if (here() !== station) await router.push(at(station))
  }

  function stations(): Findable[] {
    return STATIONS.map(({ key, name }, index) => ({ words: name, where: 'station', key: String(index + 1), go: () => router.push(at(key)) }))
  }

  function ofTheProject(): Findable[] {
    const { document, shown } = workshop
    if (!document || !shown) return []
    const end = (one: { part: string; side?: string }): string => [nameOfPart(one.part), one.side].filter(Boolean).join(', ')
    const nameOfPart = (id: string): string => document.parts.find((part) => part.id === id)?.name ?? id
    return [
      ...document.parts.map(({ id, name }) => ({ words: name, where: 'part', go: () => goIn('shape', { partId: id, cutoutId: null }) })),
      ...document.joints.map((joint) => ({ words: `${end(joint.a)} and ${end(joint.b)}`, where: `joint, ${joint.kind}`, go: () => goIn('join', { jointId: joint.id }) })),
      ...document.stocks.map(({ id, name }) => ({ words: name, where: 'stock', go: () => goIn('measure', { stockId: id }) })),
      ...shown.parts.flatMap((part) => part.cutouts.map(({ id, called }) => ({ words: called, where: `shape on ${nameOfPart(part.id)}`, go: () => goIn('shape', { partId: part.id, cutoutId: id }) }))),
      ...shown.sheets.map((sheet, index) => ({ words: `Sheet ${index + 1}`, where: `${plain(sheet.width, document.unit)} × ${withUnit(sheet.height, document.unit)}`, go: () => goIn('lay-out', { sheet: index }) })),
      ...document.names.map(({ name }) => ({ words: name, where: 'named size', go: async () => { await goIn('shape'); await goToCalled(name) } })),
    ]
  }

  function acts(): Findable[] {
    const to = (path: string) => () => router.push(path)
    const unit = workshop.unit === 'mm' ? 'in' : 'mm'
    return [
      { words: 'Add a part', where: 'do it', go: addPart },
      ...PUT.map(([kind, { name, key }]) => ({ words: `Put a shape: ${name}`, where: 'do it', ...(key ? { key } : {}), go: async () => { await goIn('shape'); putting.takeUp(kind) } })),
      { words: 'Undo', where: workshop.shown?.undo ?? 'nothing to undo', key: 'Ctrl+Z', go: () => edits.step('undo') },
      { words: 'Redo', where: workshop.shown?.redo ?? 'nothing to redo', key: 'Ctrl+Shift+Z', go: () => edits.step('redo') },
      { words: unit === 'in' ? 'Show in inches' : 'Show in mm', where: 'do it', go: () => edits.change({ do: 'set unit', unit }) },
      { words: 'Drawing, dry fit or both', where: 'do it', key: 'd, b', go: () => picked.pick({ seen: picked.seen === 'drawing' ? 'dry fit' : 'drawing' }) },
      ...Object.values(FORMATS).map(({ called }) => ({ words: `Save a sheet as ${called}`, where: 'Hand over', go: () => router.push(at('hand-over')) })),
      { words: 'Add a starter', where: 'page', go: () => router.push({ path: '/starters', query: { into: String(route.params.slug) } }) },
      { words: 'Bring a drawing', where: 'page', go: to(at('way-in')) },
      { words: 'Measure what was cut', where: 'page', go: to(at('measured')) },
      { words: 'Versions and variants', where: 'page', go: to(at('versions')) },
      { words: 'All projects', where: 'page', go: to('/') },
      { words: 'The shelf of offcuts', where: 'page', go: to('/shelf') },
      { words: 'The machine at work', where: 'page', go: to('/machine') },
      { words: 'The operator’s desk', where: 'page', go: to('/queue') },
      { words: 'The cutting service', where: 'page', go: to('/service') },
    ]
  }

  /** What stands at the station that is open, as it is there; of the others what is known of them. */
  function settings(): Findable[] {
    const open = document.querySelector('main')
    const seen = open ? onPage(open, nameOf(here() as StationKey)) : []
    const others = STATIONS.filter(({ key }) => key !== here()).flatMap(({ key, name }) =>
      SETTINGS[key].map((words) => ({ words, where: name, go: async () => { await router.push(at(key)); await goToCalled(words) } })),
    )
    return [...seen, ...others]
  }

  /** What the handbook says: what is pressed opens its page beside the work. */
  async function ofTheHandbook(): Promise<Findable[]> {
    const pages = await Promise.all(STATIONS.map(async ({ key, name }) => ({ key, name, said: sayings(await pageOf(key)) })))
    const open = async (key: StationKey): Promise<void> => {
      await goIn(key)
      handbookIsOpen.value = true
    }
    return pages.flatMap(({ key, name, said }) => said.map((words) => ({ words, where: `handbook, ${name}`, go: () => open(key) })))
  }

  function findables(): Findable[] {
    const first = [...stations(), ...ofTheProject(), ...acts()]
    const known = new Set(first.map(({ words }) => words))
    return [...first, ...settings().filter(({ words }) => !known.has(words))]
  }

  return { findables, ofTheHandbook }
}

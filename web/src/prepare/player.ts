import { useRafFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, type Schemas } from '../api/client'

export type Moves = Schemas['Played']

/** The run of a sheet, played: where the head is at a time, which jobs are done, and what of the present one is. */
export function usePlayer(source: () => { slug: string; number: number; version: number } | null) {
  const moves = shallowRef<Moves | null>(null)
  const now = ref(0)
  const playing = ref(false)
  const speed = ref(10)
  const total = computed(() => moves.value?.ends.at(-1) ?? 0)

  watch(source, (next, before) => {
    if (next?.version === before?.version && next?.number === before?.number) return
    moves.value = null
    playing.value = false
    now.value = 0
  })

  async function load(): Promise<void> {
    const from = source()
    if (moves.value || !from) return
    const { data } = await client.GET('/api/projects/{slug}/moves/{number}', { params: { path: from } })
    if (data && source()?.version === from.version) moves.value = data
  }

  useRafFn(({ delta }) => {
    if (!playing.value) return
    now.value = Math.min(total.value, now.value + (delta / 1000) * speed.value)
    if (now.value >= total.value) playing.value = false
  })

  async function play(): Promise<void> {
    await load()
    if (now.value >= total.value) now.value = 0
    playing.value = true
  }

  async function seek(share: number): Promise<void> {
    await load()
    now.value = share * total.value
  }

  const at = computed(() => placeAt(moves.value, now.value))
  return { moves, now, total, playing, speed, at, load, play, seek, pause: () => { playing.value = false }, atSpeed: (times: number) => { speed.value = times } }
}

export type Player = ReturnType<typeof usePlayer>

/** Where the run is at a time: the move that goes on, and the head (mm). */
export interface At {
  move: number
  share: number
  x: number
  y: number
  job: number
}

/** The move that goes on at a time, found by halves; a run that has not begun is at its first move. */
export function placeAt(moves: Moves | null, time: number): At | null {
  const ends = moves?.ends
  if (!moves || !ends?.length) return null
  let low = 0
  let high = ends.length - 1
  while (low < high) {
    const middle = (low + high) >> 1
    if ((ends[middle] ?? 0) < time) low = middle + 1
    else high = middle
  }
  const began = low ? (ends[low - 1] ?? 0) : 0
  const took = (ends[low] ?? 0) - began
  const share = took > 0 ? Math.min(1, Math.max(0, (time - began) / took)) : 1
  return { move: low, share, ...along(moves, low, share), job: moves.job[low] ?? 0 }
}

/** A point of a move at a share of it. */
function along(moves: Moves, move: number, share: number): { x: number; y: number } {
  const [x0, y0] = [move ? (moves.x[move - 1] ?? 0) : (moves.x[0] ?? 0), move ? (moves.y[move - 1] ?? 0) : (moves.y[0] ?? 0)]
  const [x1, y1] = [moves.x[move] ?? 0, moves.y[move] ?? 0]
  const turn = moves.turn[move] ?? 0
  if (!turn) return { x: x0 + (x1 - x0) * share, y: y0 + (y1 - y0) * share }
  const [cx, cy] = [moves.centre_x[move] ?? 0, moves.centre_y[move] ?? 0]
  const from = Math.atan2(y0 - cy, x0 - cx)
  let sweep = Math.atan2(y1 - cy, x1 - cx) - from
  if (turn > 0 && sweep <= 0) sweep += 2 * Math.PI
  if (turn < 0 && sweep >= 0) sweep -= 2 * Math.PI
  const radius = Math.hypot(x0 - cx, y0 - cy)
  return { x: cx + radius * Math.cos(from + sweep * share), y: cy + radius * Math.sin(from + sweep * share) }
}

/** What of the present job has been worked, as path data with y turned down. */
export function workedOf(moves: Moves | null, at: At | null): string {
  if (!moves || !at) return ''
  const words: string[] = []
  let first = at.move
  while (first > 0 && moves.job[first - 1] === at.job) first--
  let down = false
  for (let move = first; move <= at.move; move++) {
    if (!moves.on[move]) {
      down = false
      continue
    }
    const begun = move ? { x: moves.x[move - 1] ?? 0, y: moves.y[move - 1] ?? 0 } : { x: 0, y: 0 }
    if (!down) words.push(`M${begun.x} ${-begun.y}`)
    down = true
    const last = move === at.move ? at.share : 1
    const steps = moves.turn[move] ? Math.max(2, Math.ceil(24 * last)) : 1
    for (let step = 1; step <= steps; step++) {
      const { x, y } = along(moves, move, (last * step) / steps)
      words.push(`L${x.toFixed(2)} ${(-y).toFixed(2)}`)
    }
  }
  return words.join('')
}

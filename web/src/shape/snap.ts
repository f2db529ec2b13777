import type { Box } from '../drawing/view'

/** Where something that is dragged came to lie on a line: at which place, from where to where, and how far that is. */
export interface Drawn {
  across: boolean
  at: number
  from: number
  to: number
  gaps: [number, number][]
}

export interface Snapped {
  x: number
  y: number
  drawn: Drawn[]
}

interface Stop {
  /** How far the box has to go to stop here. */
  by: number
  drawn: Omit<Drawn, 'across'>
}

/**
 * Draws a dragged box to what lies round it: edges and middles of the part and of other shapes, and places where the
 * gaps to both neighbours, or to one and from that to the next, are equal. All in mm; `reach` is how near it must be.
 */
export function snapper(box: Box, others: Box[], part: Box): (dx: number, dy: number, reach: number) => Snapped {
  const across = stops(box, [part, ...others], others, (b) => [b.left, b.right], (b) => [b.bottom, b.top])
  const up = stops(box, [part, ...others], others, (b) => [b.bottom, b.top], (b) => [b.left, b.right])
  return (dx, dy, reach) => {
    const first = nearest(across, dx, reach)
    const second = nearest(up, dy, reach)
    return {
      x: first?.by ?? dx,
      y: second?.by ?? dy,
      drawn: [...(first ? [{ ...first.drawn, across: true }] : []), ...(second ? [{ ...second.drawn, across: false }] : [])],
    }
  }
}

type Span = (box: Box) => [number, number]

function stops(box: Box, lines: Box[], others: Box[], along: Span, beside: Span): Stop[] {
  const [low, high] = along(box)
  const mine = [low, (low + high) / 2, high]
  const found: Stop[] = []
  for (const line of lines) {
    const [start, end] = along(line)
    const [from, to] = reachOf(beside(box), beside(line))
    // Edge to edge and middle to middle; a middle on an edge is mostly chance.
    for (const [at, own] of [[start, low], [start, high], [(start + end) / 2, mine[1] ?? 0], [end, low], [end, high]] as const) {
      found.push({ by: at - own, drawn: { at, from, to, gaps: [] } })
    }
  }
  found.push(...equalGaps(box, others, along, beside))
  return found.sort((a, b) => a.by - b.by)
}

function equalGaps(box: Box, others: Box[], along: Span, beside: Span): Stop[] {
  const [low, high] = along(box)
  const level = others.filter((o) => beside(o)[0] < beside(box)[1] && beside(o)[1] > beside(box)[0])
  const spans = level.map(along).sort((a, b) => a[0] - b[0])
  const [from, to] = beside(box)
  const middle = (from + to) / 2
  const found: Stop[] = []
  spans.forEach((here, i) => {
    const next = spans[i + 1]
    if (!next || next[0] < here[1]) return
    const gap = next[0] - here[1]
    const free = gap - (high - low)
    const stop = (start: number, gaps: [number, number][]): void => {
      found.push({ by: start - low, drawn: { at: start, from: middle, to: middle, gaps } })
    }
    if (free > 0) stop(here[1] + free / 2, [[here[1], here[1] + free / 2], [next[0] - free / 2, next[0]]])
    stop(next[1] + gap, [[here[1], next[0]], [next[1], next[1] + gap]])
    stop(here[0] - gap - (high - low), [[here[1], next[0]], [here[0] - gap, here[0]]])
  })
  return found
}

function reachOf(a: [number, number], b: [number, number]): [number, number] {
  return [Math.min(a[0], b[0]), Math.max(a[1], b[1])]
}

/** The stop nearest to a way, of stops in order; at most `reach` from it. */
function nearest(stops: Stop[], way: number, reach: number): Stop | null {
  let low = 0
  let high = stops.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((stops[middle]?.by ?? Infinity) < way) low = middle + 1
    else high = middle
  }
  const near = [stops[low - 1], stops[low]].filter((s): s is Stop => s !== undefined && Math.abs(s.by - way) <= reach)
  return near.sort((a, b) => Math.abs(a.by - way) - Math.abs(b.by - way))[0] ?? null
}

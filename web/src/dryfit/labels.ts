import type { Unit } from '../api/client'
import { withUnit } from '../kit/units'
import type { Driven } from '../starters/inPlace'
import type { AssemblyScene, DryFit } from './scene'

interface Spot {
  x: number
  y: number
}

/** A dimension in the frame, in pixels, with where its number stands; its length is in mm. */
export interface Label {
  text: string
  length: number
  driven: Driven | null
  a: Spot
  b: Spot
  at: Spot
  inner: boolean
}

/** Outside sizes are drawn this far (pixels) off the assembly. */
const OFF = 20

/** The outside and inner sizes of an assembly as they are seen now; those too short to be read are left out. */
export function spanLabels(scene: AssemblyScene, fit: DryFit, unit: Unit): Label[] {
  if (scene.turning) return []
  const corners = fit.overall.flatMap((span) => [scene.project(span.start), scene.project(span.end)])
  const middle = corners.reduce((sum, spot) => ({ x: sum.x + spot.x / corners.length, y: sum.y + spot.y / corners.length }), { x: 0, y: 0 })

  function label(span: DryFit['overall'][number], inner: boolean): Label {
    const [a, b] = [scene.project(span.start), scene.project(span.end)]
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1
    const normal = { x: -(b.y - a.y) / length, y: (b.x - a.x) / length }
    const outward = Math.sign(normal.x * ((a.x + b.x) / 2 - middle.x) + normal.y * ((a.y + b.y) / 2 - middle.y + 0.01)) || 1
    const off = inner ? 0 : OFF * outward
    const moved = (spot: Spot): Spot => ({ x: spot.x + normal.x * off, y: spot.y + normal.y * off })
    // Sizes that cross are named at different places along them.
    const share = span.axis === 'y' && inner ? 0.32 : 0.5
    const along = { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share }
    return { text: withUnit(span.length, unit), length: span.length, driven: span.driven, a: moved(a), b: moved(b), at: moved(along), inner }
  }

  const all = [...fit.overall.map((span) => label(span, false)), ...fit.inner.map((span) => label(span, true))]
  return all.filter(({ a, b, inner }) => Math.hypot(a.x - b.x, a.y - b.y) > (inner ? 44 : 24))
}

import type { CutOut } from '../api/client'
import type { USUAL_SHAPES } from '../api/tables'

type Kind = CutOut['hole']['kind']

export interface Hole {
  name: string
  sizes: Record<string, string>
  /** Which of its sizes are angles. */
  angles?: string[]
  /** Whether it looks the same however it is turned. */
  round?: boolean
  /** The letter that takes it up, of those that are put where one points. */
  key?: string
}

/** Shapes that may be on a part. A new one is its line here. */
export const HOLES: Record<Kind, Hole> = {
  round: { name: 'Round hole', round: true, key: 'o', sizes: { diameter: 'Diameter' } },
  rectangle: { name: 'Rectangle', key: 'r', sizes: { width: 'Width', height: 'Height', radius: 'Corner radius' } },
  obround: { name: 'Obround', key: 's', sizes: { width: 'Width', height: 'Height' } },
  polygon: { name: 'Polygon', key: 'p', sizes: { width: 'Size', radius: 'Corner radius' } },
  ellipse: { name: 'Ellipse', key: 'e', sizes: { width: 'Width', height: 'Height' } },
  annulus: { name: 'Ring', round: true, key: 'n', sizes: { diameter: 'Outer diameter', inner: 'Inner diameter' } },
  sector: { name: 'Sector', key: 'w', sizes: { diameter: 'Diameter', inner: 'Inner diameter', angle: 'Angle (degrees)' }, angles: ['angle'] },
  'arc slot': { name: 'Arc slot', key: 'a', sizes: { radius: 'Radius of its middle', width: 'Width', angle: 'Angle (degrees)' }, angles: ['angle'] },
  points: { name: 'Through points', key: 'l', sizes: {} },
  curve: { name: 'Curve', key: 'c', sizes: { width: 'Width', height: 'Height' } },
  brought: { name: 'Motif', key: 'm', sizes: { width: 'Width', height: 'Height' } },
  text: { name: 'Text', key: 't', sizes: { height: 'Cap height' } },
  combined: { name: 'Combined shape', sizes: {} },
  part: { name: 'Outline of a part', sizes: {} },
  standard: { name: 'Standard thing', sizes: {} },
  picture: { name: 'Picture', sizes: { width: 'Width', height: 'Height' } },
}

/** Those that are put where one points, in their order. */
export const PUT = Object.entries(HOLES).filter(([, hole]) => hole.key) as [keyof typeof USUAL_SHAPES, Hole][]

import type { CutOut } from '../api/client'
import type { USUAL_SHAPES } from '../api/tables'

type Kind = CutOut['hole']['kind']

export interface Hole {
  name: string
  sizes: Record<string, string>
  /** Which of its sizes are angles. */
  angles?: string[]
  /** The letter that takes it up, of those that are put where one points. */
  key?: string
}

/** Shapes that may be on a part. A new one is its line here. */
export const HOLES: Record<Kind, Hole> = {
  round: { key: 'o', name: 'Round hole', sizes: { diameter: 'Diameter' } },
  rectangle: { key: 'r', name: 'Rectangle', sizes: { width: 'Width', height: 'Height', radius: 'Corner radius' } },
  obround: { key: 's', name: 'Obround', sizes: { width: 'Width', height: 'Height' } },
  polygon: { key: 'p', name: 'Polygon', sizes: { width: 'Size', radius: 'Corner radius' } },
  ellipse: { key: 'e', name: 'Ellipse', sizes: { width: 'Width', height: 'Height' } },
  annulus: { key: 'n', name: 'Ring', sizes: { diameter: 'Outer diameter', inner: 'Inner diameter' } },
  sector: { key: 'w', name: 'Sector', sizes: { diameter: 'Diameter', inner: 'Inner diameter', angle: 'Angle (degrees)' }, angles: ['angle'] },
  'arc slot': { key: 'a', name: 'Arc slot', sizes: { radius: 'Radius of its middle', width: 'Width', angle: 'Angle (degrees)' }, angles: ['angle'] },
  points: { key: 'l', name: 'Through points', sizes: {} },
  curve: { key: 'c', name: 'Curve', sizes: { width: 'Width', height: 'Height' } },
  brought: { key: 'm', name: 'Motif', sizes: { width: 'Width', height: 'Height' } },
  text: { key: 't', name: 'Text', sizes: { height: 'Cap height' } },
  combined: { name: 'Combined shape', sizes: {} },
  part: { name: 'Outline of a part', sizes: {} },
  standard: { name: 'Standard thing', sizes: {} },
  picture: { name: 'Picture', sizes: { width: 'Width', height: 'Height' } },
}

/** Those that are put where one points, in their order. */
export const PUT = Object.entries(HOLES).filter(([, hole]) => hole.key) as [keyof typeof USUAL_SHAPES, Hole][]

import type { CutOut } from '../api/client'

type Kind = CutOut['hole']['kind']

/** Shapes that may be on a part: what each is called, and its sizes, with those that are angles. A new one is its line here. */
export const HOLES: Record<Kind, { name: string; sizes: Record<string, string>; angles?: string[] }> = {
  round: { name: 'Round hole', sizes: { diameter: 'Diameter' } },
  rectangle: { name: 'Rectangle', sizes: { width: 'Width', height: 'Height', radius: 'Corner radius' } },
  obround: { name: 'Obround', sizes: { width: 'Width', height: 'Height' } },
  polygon: { name: 'Polygon', sizes: { width: 'Size', radius: 'Corner radius' } },
  ellipse: { name: 'Ellipse', sizes: { width: 'Width', height: 'Height' } },
  annulus: { name: 'Ring', sizes: { diameter: 'Outer diameter', inner: 'Inner diameter' } },
  sector: { name: 'Sector', sizes: { diameter: 'Diameter', inner: 'Inner diameter', angle: 'Angle (degrees)' }, angles: ['angle'] },
  'arc slot': { name: 'Arc slot', sizes: { radius: 'Radius of its middle', width: 'Width', angle: 'Angle (degrees)' }, angles: ['angle'] },
  points: { name: 'Line or shape through points', sizes: {} },
  curve: { name: 'Curve', sizes: { width: 'Width', height: 'Height' } },
  brought: { name: 'Motif', sizes: { width: 'Width', height: 'Height' } },
  text: { name: 'Text', sizes: { height: 'Cap height' } },
  combined: { name: 'Combined shape', sizes: {} },
  part: { name: 'Outline of a part', sizes: {} },
  standard: { name: 'Standard thing', sizes: {} },
  picture: { name: 'Picture', sizes: { width: 'Width', height: 'Height' } },
}

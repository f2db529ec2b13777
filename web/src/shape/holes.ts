import type { CutOut } from '../api/client'

type Kind = CutOut['hole']['kind']

/** Shapes that may be on a part: what each is called, and its sizes. A new one is its line here. */
export const HOLES: Record<Kind, { name: string; sizes: Record<string, string> }> = {
  round: { name: 'Round hole', sizes: { diameter: 'Diameter' } },
  rectangle: { name: 'Rectangle', sizes: { width: 'Width', height: 'Height', radius: 'Corner radius' } },
  obround: { name: 'Obround', sizes: { width: 'Width', height: 'Height' } },
  ellipse: { name: 'Ellipse', sizes: { width: 'Width', height: 'Height' } },
  curve: { name: 'Curve', sizes: { width: 'Width', height: 'Height' } },
  brought: { name: 'Motif', sizes: { width: 'Width', height: 'Height' } },
  text: { name: 'Text', sizes: { height: 'Cap height' } },
}

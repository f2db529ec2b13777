import { defineAsyncComponent, type Component } from 'vue'

import type { CutOut } from '../../api/client'
import type { Refusal } from '../../state/refusal'

/** What the fields of a kind of shape are given: the shape as it was typed, its values in mm, and how to change it. */
export interface ShapeProps<H> {
  hole: H
  value: (field: string) => number | undefined
  save: (change: Partial<H>) => Promise<Refusal | null>
}

/** Kinds of shapes that have more to set than sizes. */
export const MORE: Partial<Record<CutOut['hole']['kind'], Component>> = {
  rectangle: defineAsyncComponent(() => import('./RectangleFields.vue')),
  polygon: defineAsyncComponent(() => import('./PolygonFields.vue')),
  points: defineAsyncComponent(() => import('./PointsFields.vue')),
  curve: defineAsyncComponent(() => import('./CurveFields.vue')),
  text: defineAsyncComponent(() => import('./TextFields.vue')),
  part: defineAsyncComponent(() => import('./PartFields.vue')),
  standard: defineAsyncComponent(() => import('./StandardFields.vue')),
  combined: defineAsyncComponent(() => import('./CombinedFields.vue')),
}

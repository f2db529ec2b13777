import type { Component } from 'vue'

import type { Joint } from '../../api/client'
import FingerFields from './FingerFields.vue'
import HousingFields from './HousingFields.vue'
import LapFields from './LapFields.vue'
import NutFields from './NutFields.vue'
import SpliceFields from './SpliceFields.vue'
import TabFields from './TabFields.vue'

/**
 * A family of joints as it is made and set here: its name, what is picked for it with what is said meanwhile, and
 * the fields of one.
 */
export interface Family {
  name: string
  picks: ['side' | 'part', 'side' | 'part']
  says: [string, string]
  fields: Component
  /** Whether one is cut at all, so that it has a fit; all are, where nothing is said. */
  isCut?: (joint: Joint) => boolean
}

/** Every family, in the order to show them: a new one is a file beside this one, and its line here. */
export const FAMILIES: Record<Joint['kind'], Family> = {
  finger: { name: 'Finger joint', picks: ['side', 'side'], says: ['Pick the first edge of the finger joint.', 'Pick the edge that meets it.'], fields: FingerFields },
  'cross-lap': { name: 'Cross-lap', picks: ['part', 'part'], says: ['Pick the first part: its slot opens at the top.', 'Pick the part that crosses it.'], fields: LapFields },
  'tab-and-slot': { name: 'Tab and slot', picks: ['side', 'part'], says: ['Pick the edge that gets the tabs.', 'Pick the part whose face the tabs go through.'], fields: TabFields },
  splice: { name: 'Splice', picks: ['side', 'side'], says: ['Pick the edge that gets the keys.', 'Pick the edge that gets the sockets.'], fields: SpliceFields },
  'captive-nut': { name: 'Captive nut', picks: ['side', 'part'], says: ['Pick the edge that gets the nuts.', 'Pick the part that is screwed on.'], fields: NutFields },
  housing: { name: 'Butt or housing', picks: ['side', 'part'], says: ['Pick the edge that stands on a face.', 'Pick the part whose face it stands on.'], fields: HousingFields, isCut: (joint) => 'groove' in joint && Boolean(joint.groove) },
}

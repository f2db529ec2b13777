import type { Joint, Side } from '../api/client'

export interface End {
  part: string
  side: Side
}

/** The sides that a joint is on. */
export function sidesOf(joint: Joint): End[] {
  return 'side' in joint.b ? [joint.a, joint.b] : [joint.a]
}

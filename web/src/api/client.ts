import createClient from 'openapi-fetch'

import { reach } from './reach'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Shown = Schemas['ProjectShown']
export type Changes = Schemas['ProjectChanges']
export type Document = Schemas['Project']
export type Part = Schemas['Part']
export type PartShown = Schemas['PartShown']
export type Shape = Part['shape']
export type CutOut = Schemas['CutOut']
export type CutOutShown = Schemas['CutOutShown']
export type Nine = CutOut['origin']
export type Repeat = CutOut['repeat']
export type Bend = Part['bends'][number]
export type Stock = Schemas['Stock']
/** What is known of cutting a stock, on a machine or on any. */
export type Known = Pick<Stock, 'kerf' | 'up' | 'below' | 'made_for' | 'kerfs' | 'clearances' | 'history'>
export type Machine = Schemas['Machine']
export type Setting = Schemas['Setting']
export type Joint = Document['joints'][number]
/** Some of the fields of a joint of any one kind. */
export type JointChange = Some<Joint>
type Some<J> = J extends Joint ? Partial<J> : never
export type FingerJoint = Schemas['FingerJoint']
export type TabAndSlot = Schemas['TabAndSlot']
export type CaptiveNut = Schemas['CaptiveNut']
export type Housing = Schemas['Housing']
export type Splice = Schemas['Splice']
export type CrossLap = Schemas['CrossLap']
export type Size = Schemas['Size']
export type Finding = Schemas['Finding']
export type SheetProved = Schemas['SheetProved']
export type Placement = Schemas['Placement']
export type LaidSheet = Schemas['LaidSheet']
export type Told = Schemas['ToldShown']
export type Beside = Schemas['BesideShown']
export type SheetAtHand = Stock['sheets'][number]
export type Command = Schemas['NewEdit']['command']
export type Mend = Finding['mends'][number]
export type Run = Schemas['RunShown']
export type Fit = Document['fit']
export type Side = Schemas['EdgeOf']['side']
export type Unit = Document['unit']
export type Trouble = Schemas['Trouble']

export const client = createClient<paths>({ baseUrl: '/', fetch: reach })

/** What to say when a call failed: the server's own sentence, or that it was not reached. */
export function sentence(error: unknown): string {
  if (error && typeof error === 'object' && 'message' in error && typeof error.message === 'string') return error.message
  return 'The server gave no reason.'
}

import { client, type Schemas, type Size } from '../api/client'
import { refusal, refusalOf, type Refusal } from '../state/refusal'
import type { Starter } from './kinds'

export type Driven = Schemas['DrivenShown']

/** Puts a size that was typed where it stands in space into its starter, and hands that on to be kept. */
export async function typeInPlace(
  starter: Starter | null | undefined,
  driven: Driven,
  size: Size,
  keep: (changed: Starter) => Promise<Refusal | null>,
): Promise<Refusal | null> {
  if (!starter) return refusal('Its starter is not there any more.')
  const { data, error } = await client.POST('/api/starters/typed', { body: { starter, number: driven.number, index: driven.index, size } })
  return data ? keep(data) : refusalOf(error)
}

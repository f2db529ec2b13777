import { sentence, type Trouble } from '../api/client'

/** Why an edit was not taken: a sentence, and other values that would be taken for what was typed. */
export interface Refusal {
  message: string
  mends: { label: string; value: string }[]
}

export function refusal(message: string): Refusal {
  return { message, mends: [] }
}

/** The refusal in an answer of the server. */
export function refusalOf(error: unknown): Refusal {
  const told = error as Partial<Trouble> | undefined
  const mends = (told?.findings?.[0]?.mends ?? []).flatMap(({ label, command }) =>
    'value' in command ? [{ label, value: String(command.value) }] : [],
  )
  return { message: sentence(error), mends }
}

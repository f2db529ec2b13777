import type { Changes, Joint, Shown } from '../api/client'

/** A project as it is shown, with what an edit changed of it. */
export function withChanges(shown: Shown, changes: Changes): Shown {
  const { since, document, document_parts, document_joints, parts, ledger, values, ...whole } = changes
  if (since !== shown.version) throw new Error(`changes since version ${since} of a project at ${shown.version}`)
  const joints = listed(shown.document.joints, document_joints)
  return {
    ...whole,
    document: { ...document, parts: listed(shown.document.parts, document_parts), joints },
    parts: listed(shown.parts, parts),
    ledger: rowsOf(joints, [...shown.ledger.filter((row) => !Object.hasOwn(ledger, row.joint)), ...Object.values(ledger).flat()]),
    values: present({ ...shown.values, ...values }),
  }
}

function listed<T extends { id: string }>(before: T[], { ids, changed }: { ids: string[]; changed: T[] }): T[] {
  const known = new Map([...before, ...changed].map((thing) => [thing.id, thing]))
  return ids.flatMap((id) => known.get(id) ?? [])
}

/** Rows in the order of their joints. */
function rowsOf(joints: Joint[], rows: Shown['ledger']): Shown['ledger'] {
  const of = new Map(joints.map(({ id }): [string, Shown['ledger']] => [id, []]))
  for (const row of rows) of.get(row.joint)?.push(row)
  return [...of.values()].flat()
}

function present(values: Record<string, number | null>): Record<string, number> {
  return Object.fromEntries(Object.entries(values).filter((entry): entry is [string, number] => entry[1] !== null))
}

import { useLocalStorage } from '@vueuse/core'

/** Whether single letters, digits and signs do something; whoever speaks to the machine may want them off. */
export const letterKeys = useLocalStorage('letter-keys', true)

/** Whether a key is heard where it was pressed: not while something is typed, and single ones only if they are on. */
export function isHeard(event: KeyboardEvent): boolean {
  if ((event.target as HTMLElement).closest('input, textarea, [role="dialog"], [role="listbox"]')) return false
  return letterKeys.value || event.key.length > 1 || event.ctrlKey || event.metaKey
}

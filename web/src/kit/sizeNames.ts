import { shallowRef } from 'vue'

/** What a size may use by its name: named sizes, what stocks and parts give, and what can be worked out. */
export interface SizeName {
  name: string
  says: string
}

export const FUNCTIONS: SizeName[] = [
  { name: 'min(', says: 'the least of some' },
  { name: 'max(', says: 'the most of some' },
  { name: 'round(', says: 'to whole units, or steps' },
  { name: 'floor(', says: 'rounded down' },
  { name: 'ceil(', says: 'rounded up' },
  { name: 'sqrt(', says: 'the root' },
  { name: 'sin(', says: 'of degrees' },
  { name: 'cos(', says: 'of degrees' },
  { name: 'tan(', says: 'of degrees' },
  { name: 'if(', says: 'if(a > b; then; else)' },
]

/** The names that sizes of the open project may use. */
export const sizeNames = shallowRef<SizeName[]>([])

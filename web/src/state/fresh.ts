/** An id that nothing else in `taken` has. */
export function freeId(base: string, taken: { id: string }[]): string {
  const ids = new Set(taken.map((item) => item.id))
  let number = 1
  while (ids.has(`${base}_${number}`)) number++
  return `${base}_${number}`
}

/** A name for an order: sent again because no answer came, it is still the same one. */
export function freshKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** An amount in a money that goes by any name, or by none. */
export function priced(amount: number, money: string): string {
  return `${amount.toFixed(2)} ${money}`.trim()
}

/** What is typed as an amount; null where nothing is, NaN where it is none. */
export function amountOf(text: string): number | null {
  const bare = text.trim().replace(',', '.')
  return bare === '' ? null : /^\d+(\.\d*)?$|^\.\d+$/.test(bare) ? Number(bare) : NaN
}

import type { Findable } from './matching'

const CONTROLS = 'label, button, a[href], .el-collapse-item__header, [role="radiogroup"]'

/** What is set and done at the station that is open, folded away or not, as it is called there. */
export function onPage(root: ParentNode, where: string): Findable[] {
  const found = new Map<string, Findable>()
  for (const element of root.querySelectorAll<HTMLElement>(CONTROLS)) {
    const words = called(element)
    if (words.length > 1 && words.length < 80 && !found.has(words) && !isOff(element)) found.set(words, { words, where, go: () => goTo(element) })
  }
  return [...found.values()]
}

function called(element: HTMLElement): string {
  const title = element.querySelector('.fold-title') ?? element
  return (element.getAttribute('aria-label') ?? title.textContent ?? '').trim().replace(/\s+/g, ' ')
}

function isOff(element: HTMLElement): boolean {
  return element.matches(':disabled')
}

/** Unfolds what it is in, and gives it the caret; a button is pressed. */
export async function goTo(element: HTMLElement): Promise<void> {
  for (const header of foldsRound(element)) if (header.getAttribute('aria-expanded') === 'false') header.click()
  const control = controlOf(element)
  await until(() => control.checkVisibility())
  control.scrollIntoView({ block: 'center' })
  control.focus({ preventScroll: true })
  const isOpenFold = element.matches('.el-collapse-item__header[aria-expanded="true"]')
  if (control === element && !isOpenFold) element.click()
}

function controlOf(element: HTMLElement): HTMLElement {
  if (element instanceof HTMLLabelElement) return element.control ?? element
  return element.matches('[role="radiogroup"]') ? (element.querySelector<HTMLElement>('input:checked') ?? element) : element
}

/** Waits from picture to picture until something is there, no longer than so many ms; tells whether it is. */
async function until(isThere: () => boolean, patience = 4000): Promise<boolean> {
  const over = performance.now() + patience
  while (!isThere()) {
    if (performance.now() > over) return false
    await new Promise(requestAnimationFrame)
  }
  return true
}

function foldsRound(element: Element): HTMLElement[] {
  const found: HTMLElement[] = []
  for (let item = element.closest('.el-collapse-item'); item; item = item.parentElement?.closest('.el-collapse-item') ?? null) {
    const header = item.querySelector<HTMLElement>('.el-collapse-item__header')
    if (header && header !== element) found.unshift(header)
  }
  return found
}

/** Goes to what is called so at the station that was gone to, once it is there. */
export async function goToCalled(words: string): Promise<boolean> {
  const look = (): HTMLElement | undefined => [...document.querySelectorAll<HTMLElement>(`main :is(${CONTROLS})`)].find((one) => called(one) === words)
  if (!(await until(() => look() !== undefined))) return false
  const element = look()
  if (element) await goTo(element)
  return true
}

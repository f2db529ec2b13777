// @vitest-environment happy-dom
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'

import type { Size } from '../src/api/client'
import ActButton from '../src/kit/ActButton.vue'
import FoldSection from '../src/kit/FoldSection.vue'
import NoticeBar from '../src/kit/NoticeBar.vue'
import PlainField from '../src/kit/PlainField.vue'
import RowsTable from '../src/kit/RowsTable.vue'
import SizeField from '../src/kit/SizeField.vue'
import { sizeNames } from '../src/kit/sizeNames'
import TickField from '../src/kit/TickField.vue'
import { unitShown } from '../src/kit/unit'
import WayField from '../src/kit/WayField.vue'
import type { Refusal } from '../src/state/refusal'

const mm = (text: string): Size => ({ text, unit: 'mm' })
let shown: VueWrapper | null = null

/** Puts a component of the kit on a page, so that the caret can go to it. */
function onPage(component: unknown, props: Record<string, unknown>, slots: Record<string, string> = {}): VueWrapper {
  shown = mount(component as never, { props, slots, attachTo: document.body } as never) as VueWrapper
  return shown
}

beforeEach(() => { unitShown.value = 'mm'; sizeNames.value = []; localStorage.clear() })
afterEach(() => { shown?.unmount(); shown = null })

describe('a size that is typed', () => {
  const refused: Refusal = { message: 'Diameter is 0 mm, it must be more than 0', mends: [{ label: 'Make it 5 mm', value: '5' }] }

  type Save = (size: Size) => Promise<Refusal | null>

  function field(size: Size, save = vi.fn<Save>(async () => null), more = {}) {
    const at = onPage(SizeField, { label: 'Diameter', size, save, ...more })
    return { at, save, input: at.get('input') }
  }

  async function typed(input: ReturnType<VueWrapper['get']>, text: string, key = 'Enter') {
    await input.trigger('focus')
    await input.setValue(text)
    await input.trigger('keydown', { key })
    await nextTick()
    await nextTick()
  }

  it('is saved by Enter as it was typed, in the unit that it was typed in', async () => {
    const { input, save } = field(mm('12'))
    await typed(input, ' 240 - 2*thickness ')
    expect(save.mock.calls).toEqual([[mm('240 - 2*thickness')]])
  })

  it('is saved once, though the caret leaves it while it is being saved', async () => {
    let answer: (refusal: Refusal | null) => void = () => undefined
    const save = vi.fn(() => new Promise<Refusal | null>((resolve) => { answer = resolve }))
    const { input } = field(mm('12'), save)
    await typed(input, '14')
    await input.trigger('blur')
    expect(save).toHaveBeenCalledTimes(1)
    answer(null)
  })

  it('shows what is on its way where Escape is pressed meanwhile, and does not send the old size after it', async () => {
    let answer: (refusal: Refusal | null) => void = () => undefined
    const save = vi.fn(() => new Promise<Refusal | null>((resolve) => { answer = resolve }))
    const { at, input } = field(mm('12'), save)
    await typed(input, '14')
    await input.trigger('keydown', { key: 'Escape' })
    expect((input.element as HTMLInputElement).value).toBe('14')
    await at.setProps({ size: mm('14') })
    answer(null)
    await flushPromises()
    await input.trigger('focus')
    await input.trigger('blur')
    expect([(input.element as HTMLInputElement).value, save.mock.calls.length]).toEqual(['14', 1])
  })

  it('sends what is typed and left while another is on its way', async () => {
    const answers: ((refusal: Refusal | null) => void)[] = []
    const save = vi.fn<Save>(() => new Promise((resolve) => answers.push(resolve)))
    const { input } = field(mm('12'), save)
    await typed(input, '14')
    await input.setValue('15')
    await input.trigger('blur')
    answers[0]?.(null)
    await flushPromises()
    expect(save.mock.calls.map(([size]) => size.text)).toEqual(['14', '15'])
  })

  it('steps by its last place with the arrows, and is saved when they rest', async () => {
    vi.useFakeTimers()
    try {
      const { input, save } = field(mm('12.5'))
      const value = (): string => (input.element as HTMLInputElement).value
      await input.trigger('focus')
      await input.trigger('keydown', { key: 'ArrowUp' })
      await input.trigger('keydown', { key: 'ArrowUp' })
      expect(value()).toBe('12.7')
      await input.trigger('keydown', { key: 'ArrowDown', shiftKey: true })
      expect([value(), save.mock.calls.length]).toEqual(['11.7', 0])
      await vi.advanceTimersByTimeAsync(200)
      expect(save.mock.calls).toEqual([[mm('11.7')]])
      // A sum is no number that has a last place.
      await input.setValue('2*thickness')
      await input.trigger('keydown', { key: 'ArrowUp' })
      expect(value()).toBe('2*thickness')
    } finally {
      vi.useRealTimers()
    }
  })

  it('loses no step that is pressed while it is being saved', async () => {
    vi.useFakeTimers()
    try {
      let answer: (refusal: Refusal | null) => void = () => undefined
      const save = vi.fn<Save>(() => new Promise((resolve) => { answer = resolve }))
      const { input } = field(mm('12'), save)
      await input.trigger('focus')
      await input.trigger('keydown', { key: 'ArrowUp' })
      await vi.advanceTimersByTimeAsync(200)
      await input.trigger('keydown', { key: 'ArrowUp' })
      answer(null)
      await vi.advanceTimersByTimeAsync(400)
      expect(save.mock.calls.map(([size]) => size.text)).toEqual(['13', '14'])
    } finally {
      vi.useRealTimers()
    }
  })

  it('is not saved where nothing was changed, or where Escape gives it up', async () => {
    const { input, save } = field(mm('12'))
    await typed(input, '12')
    await typed(input, '99', 'Escape')
    expect(save).not.toHaveBeenCalled()
    expect((input.element as HTMLInputElement).value).toBe('12')
  })

  it('says why it was refused beside it, keeps what was typed, and takes a mend', async () => {
    const save = vi.fn(async (size: Size) => (size.text === '0' ? refused : null))
    const { at, input } = field(mm('12'), save)
    await typed(input, '0')
    expect(at.get('[role="alert"]').text()).toContain('it must be more than 0')
    expect(input.attributes('aria-invalid')).toBe('true')
    expect(document.getElementById(input.attributes('aria-describedby') ?? '')?.textContent).toContain('Diameter is 0 mm')
    // An answer to another edit does not wipe what was typed.
    await at.setProps({ size: mm('13') })
    expect((input.element as HTMLInputElement).value).toBe('0')
    await at.get('[role="alert"] button').trigger('mousedown')
    await nextTick()
    expect(save.mock.calls.at(-1)).toEqual([mm('5')])
    expect(at.find('[role="alert"]').exists()).toBe(false)
  })

  it('tells whoever made it that a refused size is given up', async () => {
    const giveUp = vi.fn()
    const { input } = field(mm('12'), vi.fn(async () => refused), { giveUp })
    await typed(input, '0')
    await input.trigger('keydown', { key: 'Escape' })
    expect(giveUp).toHaveBeenCalledTimes(1)
  })

  it('shows a bare number in the maker’s unit, and a sum in its own with what it comes to', async () => {
    unitShown.value = 'in'
    const { at, input } = field(mm('25.4'), undefined, { value: 25.4 })
    expect((input.element as HTMLInputElement).value).toBe('1')
    expect(at.text()).toContain('in')
    await at.setProps({ size: mm('2*12.7'), value: 25.4 })
    expect((input.element as HTMLInputElement).value).toBe('2*12.7')
    expect(at.get('.unit').text()).toBe('mm')
    expect(at.get('.comes-to').text()).toBe('= 1 in')
  })

  it('is not overwritten by an answer while it is being typed', async () => {
    const { at, input } = field(mm('12'))
    await input.trigger('focus')
    await input.setValue('1')
    await at.setProps({ size: mm('77') })
    expect((input.element as HTMLInputElement).value).toBe('1')
  })

  it('offers names at the caret: arrows go through them, Tab takes one, Enter without a choice saves', async () => {
    sizeNames.value = [{ name: 'tray_length', says: '240 mm' }, { name: 'tray_width', says: '180 mm' }]
    const { at, input, save } = field(mm('12'))
    await input.trigger('focus')
    await input.setValue('tr')
    const element = input.element as HTMLInputElement
    element.setSelectionRange(2, 2)
    await input.trigger('keyup', { key: 'r' })
    expect(at.findAll('.offers b').map((one) => one.text())).toEqual(['tray_length', 'tray_width'])
    await input.trigger('keydown', { key: 'ArrowDown' })
    await input.trigger('keydown', { key: 'ArrowDown' })
    await input.trigger('keydown', { key: 'Tab' })
    expect(element.value).toBe('tray_width')
    expect(save).not.toHaveBeenCalled()
    await input.trigger('keydown', { key: 'Enter' })
    await nextTick()
    expect(save.mock.calls).toEqual([[mm('tray_width')]])
  })

  it('never lets the page hear a key', async () => {
    const heard = vi.fn()
    document.body.addEventListener('keydown', heard)
    const { input } = field(mm('12'))
    await typed(input, '15')
    await input.trigger('keydown', { key: 'd' })
    expect(heard).not.toHaveBeenCalled()
    document.body.removeEventListener('keydown', heard)
  })
})

describe('a name or a whole number', () => {
  async function typed(at: VueWrapper, text: string, key = 'Enter') {
    const input = at.get('input')
    await input.trigger('focus')
    await input.setValue(text)
    await input.trigger('keydown', { key })
    return (input.element as HTMLInputElement).value
  }

  it('is at least one and at most what there may be', async () => {
    const save = vi.fn()
    const at = onPage(PlainField, { label: 'Copies', value: 3, most: 500, save })
    expect(await typed(at, '4.6')).toBe('5')
    expect(await typed(at, '9000')).toBe('500')
    expect(await typed(at, 'some')).toBe('1')
    expect(save.mock.calls.map(([value]) => value)).toEqual(['5', '500', '1'])
  })

  it('goes back to what it was where nothing may not stand, and else says nothing', async () => {
    const save = vi.fn()
    expect(await typed(onPage(PlainField, { label: 'Name', value: 'Tray', save }), '  ')).toBe('Tray')
    shown?.unmount()
    expect(await typed(onPage(PlainField, { label: 'Prefix', value: 'A', blank: 'none', save }), '')).toBe('')
    expect(save.mock.calls).toEqual([['']])
  })

  it('is given up by Escape', async () => {
    const save = vi.fn()
    const at = onPage(PlainField, { label: 'Name', value: 'Tray', save })
    expect(await typed(at, 'Box', 'Escape')).toBe('Tray')
    await at.get('input').trigger('blur')
    expect(save).not.toHaveBeenCalled()
  })
})

describe('ways and ticks', () => {
  it('saves the way that is chosen, under the name that it is called by', async () => {
    const save = vi.fn()
    const at = onPage(WayField, { label: 'Strokes', value: 'visible', options: ['visible', 'hairline'], names: { hairline: 'hairline, 0.01 mm' }, save })
    expect(at.get('[role="radiogroup"]').attributes('aria-label')).toBe('Strokes')
    const [, hairline] = at.findAll('input[type="radio"]')
    expect(at.text()).toContain('hairline, 0.01 mm')
    await hairline?.setValue(true)
    expect(save.mock.calls).toEqual([['hairline']])
  })

  it('saves whether it is so', async () => {
    const save = vi.fn()
    const at = onPage(TickField, { value: false, label: 'Check square', save })
    await at.get('input').setValue(true)
    expect(save.mock.calls).toEqual([[true]])
  })

  it('says of something to press whether it is on, where it is one of several', () => {
    expect(onPage(ActButton, {}).get('button').attributes('aria-pressed')).toBeUndefined()
    shown?.unmount()
    expect(onPage(ActButton, { pressed: true }).get('button').attributes('aria-pressed')).toBe('true')
    shown?.unmount()
    expect(onPage(ActButton, { submits: true }).get('button').attributes('type')).toBe('submit')
  })
})

describe('a section that folds', () => {
  it('stays as it was left where it has a name, and begins folded where it is told to', async () => {
    const first = onPage(FoldSection, { title: 'Besides', name: 'besides', folded: true }, { default: 'inside' })
    const head = first.get('button, [role="button"]')
    expect(head.attributes('aria-expanded')).toBe('false')
    await head.trigger('click')
    await nextTick()
    expect(JSON.parse(localStorage.getItem('folded') ?? '{}')).toEqual({ besides: false })
    first.unmount()
    const again = onPage(FoldSection, { title: 'Besides', name: 'besides', folded: true }, { default: 'inside' })
    expect(again.get('button, [role="button"]').attributes('aria-expanded')).toBe('true')
  })
})

describe('rows of figures', () => {
  const rows = [{ id: 'a', name: 'Part 10' }, { id: 'b', name: 'Part 9' }, { id: 'c', name: 'Part 2' }]
  const columns = [{ key: 'name', title: 'Name', text: (row: { name: string }) => row.name, sorts: (row: { name: string }) => row.name }]

  it('are walked by arrow keys and taken by Enter or Space', async () => {
    const choose = vi.fn()
    const at = onPage(RowsTable, { label: 'Parts', rows, columns, choose })
    await nextTick()
    await nextTick()
    const lines = at.findAll('.el-table__body tr')
    expect(lines.map((line) => line.text())).toEqual(['Part 10', 'Part 9', 'Part 2'])
    expect((lines[0]?.element as HTMLElement).tabIndex).toBe(0)
    ;(lines[0]?.element as HTMLElement).focus()
    await lines[0]?.trigger('keydown', { key: 'ArrowDown' })
    expect(document.activeElement).toBe(lines[1]?.element)
    await lines[1]?.trigger('keydown', { key: 'ArrowUp' })
    expect(document.activeElement).toBe(lines[0]?.element)
    await lines[2]?.trigger('keydown', { key: 'Enter' })
    await lines[1]?.trigger('keydown', { key: ' ' })
    expect(choose.mock.calls.map(([row]) => row.id)).toEqual(['c', 'b'])
  })

  it('cannot be reached where there is nothing to choose', async () => {
    const at = onPage(RowsTable, { label: 'Parts', rows, columns })
    await nextTick()
    await nextTick()
    expect((at.get('.el-table__body tr').element as HTMLElement).tabIndex).toBe(-1)
    expect(at.get('[role="group"]').attributes('aria-label')).toBe('Parts')
  })

  it('are sorted as people count', async () => {
    const at = onPage(RowsTable, { label: 'Parts', rows, columns })
    await vi.waitFor(() => expect(at.find('.sort-caret.ascending').exists()).toBe(true))
    await at.get('.sort-caret.ascending').trigger('click')
    await nextTick()
    await nextTick()
    expect(at.findAll('.el-table__body tr').map((line) => line.text())).toEqual(['Part 2', 'Part 9', 'Part 10'])
  })
})

describe('a notice', () => {
  it('is said at once to those who do not see it', () => {
    const at = onPage(NoticeBar, { text: 'The server is away', wrong: true }, { default: 'The server is away' })
    expect(at.html()).toMatch(/role="(alert|status)"/)
  })
})

import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import { namesOf } from '../logic/shortcuts'
import { useShortcuts } from './shortcuts'

type Handlers = Parameters<typeof useShortcuts>[0]
const listener = (handlers: Handlers) => defineComponent({ setup: () => (useShortcuts(handlers), () => h('input')) })
const press = (key: string, more: KeyboardEventInit = {}, at: EventTarget = window) => {
  const e = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
  at.dispatchEvent(e)
  return e
}

describe('shortcuts', () => {
  it('are told apart by Ctrl and Shift', () => {
    const held = { ctrlKey: false, metaKey: false, altKey: false, shiftKey: false }
    expect(namesOf({ ...held, key: 'Z', ctrlKey: true, shiftKey: true })).toEqual(['redo'])
    expect(namesOf({ ...held, key: 'z', metaKey: true })).toEqual(['undo'])
    expect(namesOf({ ...held, key: 'z' })).toEqual([])
    expect(namesOf({ ...held, key: 'R', shiftKey: true })).toEqual(['turn'])
    expect(namesOf({ ...held, key: '2' })).toEqual(['figures', 'station'])
    expect(namesOf({ ...held, key: 'f', altKey: true })).toEqual([])
  })

  it('go to what was mounted last, and on where it is not for it', () => {
    const [outer, inner] = [vi.fn(), vi.fn((): unknown => false)]
    const below = mount(listener({ remove: outer }))
    const above = mount(listener({ remove: inner }))
    expect(press('Delete').defaultPrevented).toBe(true)
    expect([inner.mock.calls.length, outer.mock.calls.length]).toEqual([1, 1])
    inner.mockReturnValue(undefined)
    press('Backspace')
    expect([inner.mock.calls.length, outer.mock.calls.length]).toEqual([2, 1])
    above.unmount()
    press('Delete')
    expect([inner.mock.calls.length, outer.mock.calls.length]).toEqual([2, 2])
    below.unmount()
    expect(press('Delete').defaultPrevented).toBe(false)
  })

  it('leave what is typed into a field to the field, which Escape leaves', () => {
    const all = vi.fn()
    const page = mount(listener({ all, leave: all }), { attachTo: document.body })
    const field = page.find('input').element
    field.focus()
    press('a', {}, field)
    press('Escape', {}, field)
    expect(all).not.toHaveBeenCalled()
    expect(document.activeElement).not.toBe(field)
    page.unmount()
  })

  it('wait while a dialog is open', () => {
    const all = vi.fn()
    const page = mount(listener({ all }))
    document.body.innerHTML = '<div class="v-overlay--active" role="dialog"></div>'
    press('a')
    document.body.innerHTML = ''
    expect(all).not.toHaveBeenCalled()
    press('a')
    expect(all).toHaveBeenCalledOnce()
    page.unmount()
  })

  it('undo what is typed in a field, then what was done to the job', async () => {
    const undo = vi.fn()
    const page = mount(listener({ undo }), { attachTo: document.body })
    const field = page.get('input')
    field.element.focus()
    field.element.value = 'typed'
    expect(press('z', { ctrlKey: true }, field.element).defaultPrevented).toBe(false)
    await field.trigger('change')
    expect(press('z', { ctrlKey: true }, field.element).defaultPrevented).toBe(true)
    expect(undo).toHaveBeenCalledOnce()
    page.unmount()
  })
})

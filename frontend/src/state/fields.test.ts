import { afterEach, expect, it } from 'vitest'
import { isUntouched, standsNow } from './fields'

function aField(value: string): HTMLInputElement {
  const field = document.body.appendChild(document.createElement('input'))
  field.className = 'typed'
  field.value = value
  return field
}
const taken = (field: HTMLInputElement) => field.value.slice(field.selectionStart ?? 0, field.selectionEnd ?? 0)
function click(field: HTMLInputElement) {
  // where the browser puts the caret
  field.setSelectionRange(1, 1)
  field.dispatchEvent(new MouseEvent('click', { bubbles: true }))
}
function type(field: HTMLInputElement, text: string) {
  field.value = text
  field.setSelectionRange(text.length, text.length)
  field.dispatchEvent(new InputEvent('input', { bubbles: true }))
}
afterEach(() => document.body.replaceChildren())

it('is replaced by what is typed after it was entered, and after it was kept', () => {
  const field = aField('12.0')
  field.focus()
  expect(taken(field)).toBe('12.0')
  type(field, '15')
  expect(isUntouched(field)).toBe(false)
  field.value = '15.0'
  standsNow(field)
  expect([taken(field), isUntouched(field)]).toEqual(['15.0', true])
  click(field)
  expect(taken(field)).toBe('15.0')
})

it('is mended where the caret is placed by a second click, or once something is typed', () => {
  const field = aField('12.0')
  field.focus()
  click(field)
  click(field)
  expect(taken(field)).toBe('')
  standsNow(field)
  type(field, '125')
  click(field)
  expect(taken(field)).toBe('')
})

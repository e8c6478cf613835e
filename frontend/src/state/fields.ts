/**
 * Fields that something is typed into. What stood in one when it was entered, or when it was kept last, is replaced by what is typed
 * next: the first click takes all of it, the next one places the caret. Until something is typed, undo is the job's.
 */
const stood = new WeakMap<EventTarget, string>()
const fresh = new WeakSet<EventTarget>()

type Field = HTMLInputElement | HTMLTextAreaElement
const isField = (at: EventTarget | null): at is Field => at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement
const replaces = (at: Field) => at.matches('input.typed')
/** Whether nothing is typed in it that isn't kept; of what isn't a field too. */
export const isUntouched = (at: EventTarget) => !isField(at) || stood.get(at) === at.value

/** What stands in a field now is what was kept, or it was just entered. */
export function standsNow(field: Field) {
  stood.set(field, field.value)
  if (!replaces(field)) return
  fresh.add(field)
  if (document.activeElement === field) field.select()
}

window.addEventListener('focusin', (e) => {
  if (isField(e.target)) standsNow(e.target)
})
window.addEventListener('change', (e) => {
  if (isField(e.target)) stood.set(e.target, e.target.value)
})
window.addEventListener('input', (e) => {
  if (e.target) fresh.delete(e.target)
})
window.addEventListener('click', ({ target }) => {
  if (!isField(target) || !fresh.delete(target)) return
  if (target.selectionStart === target.selectionEnd) target.select()
})

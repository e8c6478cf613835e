import { onScopeDispose } from 'vue'
import { namesOf, type ShortcutName } from '../logic/shortcuts'

/** Does what a key means; false where it means nothing here just now. */
type Handler = (e: KeyboardEvent) => unknown
type Handlers = Partial<Record<ShortcutName, Handler>>
// what was mounted last is asked first
const listening: Handlers[] = []

/** Have keys do something while the component is there. Keys that are typed into a field are the field's. */
export function useShortcuts(handlers: Handlers) {
  listening.push(handlers)
  onScopeDispose(() => listening.splice(listening.indexOf(handlers), 1))
}

window.addEventListener('keydown', pressed)
window.addEventListener('focusin', (e) => note(e.target))
window.addEventListener('change', (e) => note(e.target))

/** What stood in a field when it was entered, or when it was kept last. */
const stood = new WeakMap<EventTarget, string>()
const isTyped = (at: unknown) => at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement
function note(at: EventTarget | null) {
  if (at && isTyped(at)) stood.set(at, (at as HTMLInputElement).value)
}
/** In a field undo is the field's while something is typed there, then the job's. */
const isUntouched = (at: EventTarget) => !isTyped(at) || stood.get(at) === (at as HTMLInputElement).value
const FOR_THE_JOB: readonly ShortcutName[] = ['undo', 'redo']

function pressed(e: KeyboardEvent) {
  const at = e.target
  let names = namesOf(e)
  if (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement || at instanceof HTMLSelectElement) {
    if (e.key === 'Escape') at.blur()
    names = isUntouched(at) ? names.filter((name) => FOR_THE_JOB.includes(name)) : []
  }
  if (e.defaultPrevented || document.querySelector('.v-overlay--active[role="dialog"]')) return
  for (const name of names)
    for (const handlers of listening.toReversed()) {
      const handle = handlers[name]
      if (handle && handle(e) !== false) {
        e.preventDefault()
        return
      }
    }
}

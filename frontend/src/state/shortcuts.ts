import { onScopeDispose } from 'vue'
import { namesOf, type ShortcutName } from '../logic/shortcuts'
import { isUntouched } from './fields'

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

/** In a field undo is the field's while something is typed there, then the job's. */
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

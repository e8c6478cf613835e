import { tryOnScopeDispose } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Refusal } from '../api/client'
import { say } from '../state/notice'

const AWAY = 'The workshop’s server can’t be reached. What you typed is sent by itself as soon as it can be.'
const AGAIN_MS = 2500

/**
 * What is typed into a field until it is kept: a refusal stands at the field and the text stays, whatever changes elsewhere
 * meanwhile, until it is mended or taken back. Where the server is away it is sent again until it is there, or until the field
 * goes from sight: then it is said at the foot of the window. `value` is what the server has, `keep` sends what was typed.
 * Of another thing it is another field: give its component that thing's key.
 */
export function useEntry(value: () => string, keep: (text: string) => Promise<Refusal | null>) {
  const typed = ref<string | null>(null)
  const refused = ref('')
  let refusedText = ''
  let again: ReturnType<typeof setTimeout> | undefined
  let isInSight = true
  const sayNotSent = () => say(`“${refusedText}” wasn’t sent: the workshop’s server can’t be reached.`, true)
  tryOnScopeDispose(() => {
    isInSight = false
    clearTimeout(again)
    if (again && stillRefused()) sayNotSent()
  })
  const text = computed({
    get: () => typed.value ?? value(),
    set: (now: string) => {
      typed.value = now
      // undone by hand: nothing is wrong any more
      if (now.trim() === value()) refused.value = ''
    },
  })
  watch(value, (now) => {
    // what another window made of it is what was typed here
    if (typed.value?.trim() === now) takeBack()
  })
  function takeBack() {
    typed.value = null
    refused.value = ''
  }
  const stillRefused = () => !!refused.value && typed.value?.trim() === refusedText
  /** What was refused and stands as it was, taken back; false where there is no such thing. */
  function undo() {
    if (!stillRefused()) return false
    takeBack()
    return true
  }
  /** What is on its way: Enter sends it, and leaving the field would once more. */
  let underway: string | null = null
  async function send() {
    const now = typed.value?.trim()
    if (now === undefined || now === value()) return takeBack()
    if (now === underway) return
    underway = now
    clearTimeout(again)
    again = undefined
    const why = await keep(now).finally(() => (underway = null))
    if (why) {
      refused.value = why.status === 0 ? AWAY : why.message
      refusedText = now
      if (why.status === 0 && isInSight) again = setTimeout(() => stillRefused() && void send(), AGAIN_MS)
      else if (why.status === 0) sayNotSent()
    }
    // more may have been typed meanwhile
    else if (typed.value?.trim() === now) takeBack()
    else refused.value = ''
  }
  /** Whether what the server has stands there. */
  const isKept = computed(() => typed.value === null)
  return { text, isKept, refused, send, takeBack, undo }
}

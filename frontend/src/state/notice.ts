import { ref } from 'vue'
import { Refusal } from '../api/client'

/** The sentence shown at the foot of the window, if any. */
export const notice = ref<{ text: string; wrong: boolean } | null>(null)

export function say(text: string, wrong = false) {
  notice.value = { text, wrong }
}

/** What went wrong is said no longer once something else is done. */
export function hush() {
  if (notice.value?.wrong) notice.value = null
}

export function sayWrong(e: unknown) {
  say(e instanceof Refusal ? e.message : 'Something went wrong in the page; reload it. Nothing saved is lost.', true)
  if (!(e instanceof Refusal)) console.error(e)
}

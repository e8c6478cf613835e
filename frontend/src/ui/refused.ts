import { computed, ref, watch } from 'vue'
import type { Refusal } from '../api/client'

/** Why a form was refused, and the key of the field whose text that quotes; none where it is about all of the form. */
export interface Refused {
  why: string
  at: string
}

/**
 * What is refused of a form stands at the field whose text it quotes, else at the form's foot, until that is changed. `values` are
 * the texts as they are typed, by their keys.
 */
export function useRefused(values: () => Readonly<Record<string, string | undefined>>) {
  const refused = ref<Refused | null>(null)
  let latest = ''
  watch(
    () => ({ ...values() }),
    (now, before) => (latest = Object.keys(now).find((key) => now[key] !== before[key]) ?? latest),
    { flush: 'sync' },
  )
  /** What came of sending the form; whether it was taken. */
  function heard(refusal: Refusal | null): boolean {
    refused.value = refusal && { why: refusal.message, at: keyQuoted(refusal.message, values(), latest) }
    return !refusal
  }
  /** Something else was typed into a field. */
  function changed(key: string) {
    if (!refused.value?.at || refused.value.at === key) refused.value = null
  }
  return { refused: computed(() => refused.value), heard, changed }
}

/** The field whose text a sentence quotes; of several with that text the one that was typed into last. */
function keyQuoted(sentence: string, values: Readonly<Record<string, string | undefined>>, latest: string) {
  const quoted = Object.keys(values).filter((key) => values[key]?.trim() && sentence.includes(`“${values[key].trim()}”`))
  return quoted.includes(latest) ? latest : (quoted[0] ?? '')
}

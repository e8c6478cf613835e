import { computed, ref } from 'vue'
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
  /** What came of sending the form; whether it was taken. */
  function heard(refusal: Refusal | null): boolean {
    refused.value = refusal && { why: refusal.message, at: keyQuoted(refusal.message, values()) }
    return !refusal
  }
  /** Something else was typed into a field. */
  function changed(key: string) {
    if (!refused.value?.at || refused.value.at === key) refused.value = null
  }
  return { refused: computed(() => refused.value), heard, changed }
}

const keyQuoted = (sentence: string, values: Readonly<Record<string, string | undefined>>) =>
  Object.entries(values).find(([, text]) => text?.trim() && sentence.includes(`“${text.trim()}”`))?.[0] ?? ''

import type { Job, JobAnswer } from '../api/client'

interface SameAs {
  same: number
}
const isSame = (value: object): value is SameAs => 'same' in value

/** The whole job of an answer, in which what a change left alone is only named by its place in the job as it was shown. */
export function wholeJob(answer: JobAnswer, shown: Job | null): Job {
  const all = <T extends object>(now: readonly (T | SameAs)[], then: readonly T[] | undefined): T[] =>
    now.map((value) => {
      if (!isSame(value)) return value as T
      const known = then?.[value.same]
      if (!known) throw new Error('the answer names something that isn’t shown')
      return known
    })
  const shape = answer.shape && isSame(answer.shape) ? (shown?.shape ?? null) : answer.shape
  return { ...answer, shape, panels: all(answer.panels, shown?.panels), pieces: all(answer.pieces, shown?.pieces) }
}

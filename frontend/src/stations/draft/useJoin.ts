import type { Schemas } from '../../api/client'
import { useDraftBench, useOpenJob } from '../../state/keys'

/** The join that is chosen, and changing it. */
export function useJoin() {
  const state = useOpenJob()
  const { chosenJoin } = useDraftBench()
  const change = (what: Partial<Schemas['SetJoin']>): Schemas['SetJoin'] => ({
    kind: 'set_join',
    join: chosenJoin.value!.id,
    seam: null,
    meant: null,
    fullness: null,
    parts: null,
    ...what,
  })
  return {
    join: chosenJoin,
    set: (what: Partial<Schemas['SetJoin']>) => state.do(change(what)),
    keep: (what: Partial<Schemas['SetJoin']>) => state.keep(change(what)),
  }
}
/** How many parts both sides are notched in, as it is chosen from a list. */
export const partsOf = (typed: string | undefined) => (typed ? (Number(typed) as Schemas['SetJoin']['parts']) : null)

import { computed } from 'vue'
import type { Schemas, SeamEdge } from '../../api/client'
import { useDraftBench, useOpenJob } from '../../state/keys'

type Shared = 'allowance' | 'finish' | 'turn_under' | 'cord' | 'elastic'

/** The chosen edges: what they have in common, and setting all of them at once. */
export function useEdges() {
  const state = useOpenJob()
  const { chosen, edges } = useDraftBench()
  const first = computed<SeamEdge | null>(() => edges.value[0] ?? null)
  const same = (key: Shared): string => (edges.value.every((e) => e[key] === first.value?.[key]) ? (first.value?.[key] ?? '') : '')
  const change = (what: Omit<Schemas['SetEdges'], 'edges' | 'kind'>) => ({ kind: 'set_edges' as const, edges: [...chosen.value], ...what })
  return {
    ...{ first, edges, same },
    set: (what: Omit<Schemas['SetEdges'], 'edges' | 'kind'>) => state.do(change(what)),
    keep: (what: Omit<Schemas['SetEdges'], 'edges' | 'kind'>) => state.keep(change(what)),
  }
}

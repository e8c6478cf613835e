import { computed } from 'vue'
import { useShapeBench } from '../../state/keys'

/** What an edge may be made of. */
export const EDGE_KINDS = { line: 'Straight', arc: 'Arc', curve: 'Curve', auto: 'Best fit' } as const

/** What the chosen edge is to be. */
export function useEdgeKind() {
  const { work, table } = useShapeBench()
  const { chosen, wanted } = table
  const kind = computed(() => (wanted.value && wanted.value in EDGE_KINDS ? (wanted.value as keyof typeof EDGE_KINDS) : null))
  const set = (to: keyof typeof EDGE_KINDS) => work.setKind(chosen.value!.ring, chosen.value!.edge!, to)
  return { kind, set }
}

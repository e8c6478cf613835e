import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { drawnEdge } from '../../state/draft'
import { useDraftBench, useOpenJob } from '../../state/keys'

/** The chosen corner: the edge at whose end it is, and setting how it is cut. */
export function useCorner() {
  const state = useOpenJob()
  const { panel, corner } = useDraftBench()
  const edge = computed(() => drawnEdge(panel.value, corner.value))
  const set = (kind: string) => state.do({ kind: 'set_edges', edges: [corner.value], corner: kind as Schemas['SetEdges']['corner'] })
  return { edge, set }
}

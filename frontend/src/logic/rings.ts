import type { SeamEdge } from '../api/client'

/** A ring of edges, each with its own path, as one closed path. */
export const ringPath = (ring: readonly Pick<SeamEdge, 'path'>[]) =>
  ring.map((e, k) => (k ? e.path.replace(/^M\S+ \S+/, '') : e.path)).join(' ') + ' Z'

import type { Schemas, SeamEdge } from '../api/client'

type Along = Schemas['Along']
interface Ring {
  id: string
  edges: readonly SeamEdge[]
}

/** The edges of one side of a join, by their ids, in the order in which they are walked: as they follow one another on their
 * panel; the side that is sewn face to face with it is walked `backward`. */
export function sideOf(rings: readonly Ring[], chosen: readonly string[], backward: boolean): Along[] {
  const run = rings.flatMap((ring) => {
    const own = [...new Set(ring.edges.map((e) => e.of))].filter((id): id is string => !!id)
    const picked = own.map((id) => chosen.includes(id))
    // a run that goes over the ring’s start begins behind its gap
    const gap = picked.lastIndexOf(false)
    const start = picked[0] && picked.at(-1) && gap >= 0 ? gap + 1 : 0
    const turned = [...own.slice(start), ...own.slice(0, start)].filter((id) => chosen.includes(id))
    return turned.map((edge) => ({ panel: ring.id, edge, backward, piece: 1 }))
  })
  return backward ? run.reverse() : run
}

/** The flags of a panel’s edges: of each edge, by its id, the letters of the joins that it is sewn in. */
export function flagsOf(joins: readonly Schemas['JoinView'][], panel: string): Map<string, string[]> {
  const flags = new Map<string, string[]>()
  for (const j of joins)
    for (const along of [...j.first, ...j.second]) {
      const own = flags.get(along.edge) ?? []
      if (along.panel === panel && !own.includes(j.letter)) flags.set(along.edge, [...own, j.letter])
    }
  return flags
}

/** The ids of the edges that a maker sets, in the order of the rings; a drafted edge that was made of another counts with it. */
export function ownEdges(rings: readonly (readonly { of?: string | null }[])[]): string[] {
  return [...new Set(rings.flat().flatMap((e) => e.of ?? []))]
}

/** The edge `by` steps on from `from`, and round again. */
export function step(all: readonly string[], from: string | null, by: number): string | null {
  if (!all.length) return null
  const at = from ? all.indexOf(from) : by > 0 ? -1 : 0
  return all[(at + by + all.length) % all.length] ?? null
}

/** The choice after an edge was pointed at: alone, or added to or taken from the others (`more`). */
export function chosenAfter(chosen: readonly string[], pointed: string, more: boolean): string[] {
  if (!more) return [pointed]
  return chosen.includes(pointed) ? chosen.filter((e) => e !== pointed) : [...chosen, pointed]
}

/** How many of the edges that a maker sets are to be sewn but have nothing to do it with. */
export function bareEdges(panels: readonly { rings: readonly (readonly { of?: string | null; bare: boolean }[])[] }[]): number {
  return panels.reduce((count, p) => count + ownEdges(p.rings.map((ring) => ring.filter((e) => e.bare))).length, 0)
}

import { ON_SEAM } from './finishes'

/** An edge of a panel as the maker sets it: its ring (0 the outline, then the holes) and its place in the ring. */
export type EdgeRef = readonly [ring: number, edge: number]

export function sameEdge(a: EdgeRef, b: EdgeRef): boolean {
  return a[0] === b[0] && a[1] === b[1]
}

/** The edges that a maker sets, in the order of the rings; a drafted edge that was made of another counts with it. */
export function ownEdges(rings: readonly (readonly { of?: readonly number[] | null }[])[]): EdgeRef[] {
  const found: EdgeRef[] = []
  for (const ring of rings)
    for (const e of ring) {
      const of = e.of && ([e.of[0] ?? 0, e.of[1] ?? 0] as const)
      if (of && !found.some((f) => sameEdge(f, of))) found.push(of)
    }
  return found.sort((a, b) => a[0] - b[0] || a[1] - b[1])
}

/** The edge `by` steps on from `from`, and round again. */
export function step(all: readonly EdgeRef[], from: EdgeRef | null, by: number): EdgeRef | null {
  if (!all.length) return null
  const at = from ? all.findIndex((e) => sameEdge(e, from)) : by > 0 ? -1 : 0
  return all[(at + by + all.length) % all.length] ?? null
}

/** The choice after an edge was pointed at: alone, or added to or taken from the others (`more`). */
export function chosenAfter(chosen: readonly EdgeRef[], pointed: EdgeRef, more: boolean): EdgeRef[] {
  if (!more) return [pointed]
  const without = chosen.filter((e) => !sameEdge(e, pointed))
  return without.length < chosen.length ? without : [...chosen, pointed]
}

/** How many of the edges that a maker sets are to be sewn but have nothing to do it with. */
export function bareEdges(
  panels: readonly { rings: readonly (readonly { of?: readonly number[] | null; finish: string; allowance_mm: number }[])[] }[],
): number {
  return panels.reduce((count, p) => {
    const bare = p.rings.map((ring) => ring.filter((e) => !ON_SEAM.has(e.finish) && e.allowance_mm === 0))
    return count + ownEdges(bare).length
  }, 0)
}

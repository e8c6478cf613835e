/** An edge of a panel: its ring (0 the outline, then the holes) and its place in the ring. */
export type EdgeRef = readonly [ring: number, edge: number]

export function sameEdge(a: EdgeRef, b: EdgeRef): boolean {
  return a[0] === b[0] && a[1] === b[1]
}

/** The edge `by` steps on from `from`, through all rings and round again. */
export function step(rings: readonly (readonly unknown[])[], from: EdgeRef | null, by: number): EdgeRef | null {
  const all = rings.flatMap((ring, r) => ring.map((_, k) => [r, k] as const))
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

type Pair = readonly [number, number]
interface Edge {
  of?: string | null
  own_name: string
  start: readonly number[]
  middle: readonly number[]
  ways: readonly [readonly number[], readonly number[]]
}
export interface Corner {
  /** The edge at whose end it is. */
  edge: string
  name: string
  at: Pair
  /** The directions in which the way round arrives at it and leaves it. */
  arrives: Pair
  leaves: Pair
  /** How far it may be drawn beside its edges, so that a small shape stays in sight. */
  room: number
}
const ROOM = 0.3
/** Turns by less run on smoothly, as the hand sees it. */
const SMOOTH = Math.cos((6 * Math.PI) / 180)

/** The corners of a ring that a maker sets: where one of the maker's edges ends and another begins. */
export function cornersOf(ring: readonly Edge[]): Corner[] {
  return ring.flatMap((e, k) => {
    const before = ring.at(k - 1)
    if (!before?.of || !e.of || before.of === e.of) return []
    const pair = (p: readonly number[] | undefined): Pair => [p?.[0] ?? 0, p?.[1] ?? 0]
    const corner = { edge: before.of, name: `${before.own_name} – ${e.own_name}`, at: pair(e.start) }
    const half = (edge: Edge) => Math.hypot(pair(edge.middle)[0] - pair(edge.start)[0], pair(edge.middle)[1] - pair(edge.start)[1])
    return [{ ...corner, arrives: pair(before.ways[1]), leaves: pair(e.ways[0]), room: ROOM * Math.min(half(before), half(e)) }]
  })
}

/**
 * How a corner is drawn, y down: at a sharp one both lines are drawn past one another, as with chalk; where the way runs on
 * smoothly a tick crosses it. `reach` is how far, mm.
 */
export function cornerPath(at: Pair, arrives: Pair, leaves: Pair, reach: number): string {
  const [x, y] = at
  const to = (dx: number, dy: number) => `${x + dx * reach} ${-(y + dy * reach)}`
  if (arrives[0] * leaves[0] + arrives[1] * leaves[1] > SMOOTH)
    return `M${to(-leaves[1] * 0.8, leaves[0] * 0.8)}L${to(leaves[1] * 0.8, -leaves[0] * 0.8)}`
  return `M${to(-leaves[0], -leaves[1])}L${to(0, 0)}L${to(arrives[0], arrives[1])}`
}

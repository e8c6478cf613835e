import type { Schemas } from '../api/client'

type Pieces = Schemas['AssembledView']['pieces']
export type Vector = readonly [number, number, number]

/** The middle and the size of all that stands in space. */
export function boundsOf(pieces: Pieces): { middle: Vector; size: number } {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (const { corners } of pieces)
    corners.forEach((value, k) => {
      low[k % 3] = Math.min(low[k % 3]!, value)
      high[k % 3] = Math.max(high[k % 3]!, value)
    })
  if (!pieces.some((p) => p.corners.length)) return { middle: [0, 0, 0], size: 1 }
  const middle = low.map((v, k) => (v + high[k]!) / 2) as [number, number, number]
  return { middle, size: Math.max(...low.map((v, k) => high[k]! - v)) }
}

/** Which way a piece is drawn apart from the others: from the middle of all to its own; up where that is the same. */
export function apart(corners: readonly number[], middle: Vector): Vector {
  const sum = [0, 0, 0]
  corners.forEach((value, k) => (sum[k % 3]! += value))
  const count = corners.length / 3 || 1
  const away = sum.map((v, k) => v / count - middle[k]!)
  const length = Math.hypot(...away)
  return length < 1e-6 ? [0, 0, 1] : (away.map((v) => v / length) as [number, number, number])
}

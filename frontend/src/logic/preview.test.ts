import { expect, it } from 'vitest'
import { follow } from './preview'

/** What an SVG transform makes of a point. */
function moved(transform: string | undefined, [x, y]: [number, number]): number[] {
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = [...(transform ?? '').matchAll(/-?[\d.]+(?:e-?\d+)?/g)].map(Number)
  return [a * x + c * y + e, b * x + d * y + f].map((v) => Math.round(v * 1e6) / 1e6)
}

it('lets an edge follow a dragged end while the other stays', () => {
  const follows = follow({ x: 10, y: 20 }, { x: 110, y: 20 }, { x: 10, y: -30 })
  expect(moved(follows, [10, 20])).toEqual([10, 20])
  expect(moved(follows, [110, 20])).toEqual([10, -30])
  // what lies beside its middle goes along, half as large as the edge is half as long
  expect(moved(follows, [60, 30])).toEqual([15, -5])
})

it('leaves an edge without length alone', () => {
  expect(follow({ x: 1, y: 1 }, { x: 1, y: 1 }, { x: 5, y: 5 })).toBeUndefined()
})

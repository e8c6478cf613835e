import { describe, expect, it } from 'vitest'
import { carried, drawn, inverse } from './transform'

const MAP = { a: 0, b: -2, c: 3, d: 0, x: 5, y: 7 }

describe('a map of the plane', () => {
  it('carries a point', () => expect(carried(MAP, { x: 10, y: 100 })).toEqual({ x: -195, y: 37 }))
  it('is the same map with y down', () => {
    const [a, b, c, d, e, f] = drawn(MAP)
      .match(/-?[\d.]+/g)!
      .map(Number) as [number, number, number, number, number, number]
    const [x, y] = [10, -100]
    expect([a * x + c * y + e, -(b * x + d * y + f)]).toEqual([-195, 37])
  })
  it('has a way back', () => {
    const back = carried(inverse(MAP), { x: -195, y: 37 })
    expect([back.x, back.y]).toEqual([expect.closeTo(10), expect.closeTo(100)])
  })
  it('leaves all where it is unless told otherwise', () => expect(carried({}, { x: 1, y: 2 })).toEqual({ x: 1, y: 2 }))
})

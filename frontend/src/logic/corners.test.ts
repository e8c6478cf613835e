import { describe, expect, it } from 'vitest'
import { anEdge } from '../testing/samples'
import { cornerPath, cornersOf } from './corners'
import { placedTag } from './tags'

describe('corners', () => {
  it('are where one of the maker’s edges ends and another begins, not where one is in parts', () => {
    const parts = [anEdge('a'), anEdge('a', { name: 'a 2' }), anEdge('b', { own_name: 'top' }), anEdge('c'), { ...anEdge('x'), of: null }]
    expect(cornersOf(parts).map((c) => [c.edge, c.name])).toEqual([
      ['a', 'a – top'],
      ['b', 'top – c'],
    ])
  })

  it('are drawn as two lines past one another, a smooth joint as a tick across', () => {
    expect(cornerPath([10, 5], [1, 0], [0, 1], 4)).toBe('M10 -1L10 -5L14 -5')
    expect(cornerPath([10, 5], [1, 0], [1, 0], 10)).toBe('M10 -13L10 3')
  })
})

describe('a tag', () => {
  const [own, room] = [
    { width: 200, height: 50 },
    { width: 800, height: 600 },
  ]

  it('hangs outside the work where it has room', () => {
    expect(placedTag({ x: 400, y: 200 }, { x: 0, y: -1 }, 20, own, room)).toEqual({ x: 400, y: 155 })
  })

  it('stays in the window, and goes to the other side rather than cover its place', () => {
    const at = placedTag({ x: 30, y: 300 }, { x: -1, y: 0 }, 20, own, room)
    expect(at.x - own.width / 2).toBeGreaterThanOrEqual(30)
    expect(placedTag({ x: 400, y: 20 }, { x: 0, y: -1 }, 20, own, room).y).toBeGreaterThan(60)
  })
})

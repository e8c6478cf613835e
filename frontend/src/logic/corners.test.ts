import { describe, expect, it } from 'vitest'
import { anEdge } from '../testing/samples'
import { cornerPath, cornersOf } from './corners'

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

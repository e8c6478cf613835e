import { describe, expect, it } from 'vitest'
import { apart, boundsOf } from './space'

const piece = (corners: number[]) => ({ name: '', corners, rim: [] })

describe('a cover in space', () => {
  it('is looked at in its middle', () => {
    expect(boundsOf([piece([0, 0, 0, 10, 0, 0]), piece([0, 40, 0, 0, 0, -20])])).toEqual({ middle: [5, 20, -10], size: 40 })
    expect(boundsOf([])).toEqual({ middle: [0, 0, 0], size: 1 })
  })
  it('is drawn apart from there', () => {
    expect(apart([10, 0, 0, 30, 0, 0], [0, 0, 0])).toEqual([1, 0, 0])
    expect(apart([-1, 0, 0, 1, 0, 0], [0, 0, 0])).toEqual([0, 0, 1])
  })
})

import { describe, expect, it } from 'vitest'
import { middleOf, nudged } from './pointing'

describe('pointing at a photo', () => {
  it('finds the middle of a ring', () => {
    expect(
      middleOf([
        [0, 0],
        [10, 2],
        [4, 8],
      ]),
    ).toEqual({ x: 5, y: 4 })
  })
  it('moves a place by an arrow key and keeps it inside', () => {
    expect(nudged([0.5, 0.5], 'ArrowUp', 0.1)).toEqual([0.5, 0.4])
    expect(nudged([0.99, 0], 'ArrowRight', 0.1)).toEqual([1, 0])
    expect(nudged([0.5, 0.5], 'a', 0.1)).toBeNull()
  })
})

import { describe, expect, it } from 'vitest'
import { bandPath, thinned } from './band'

const square = [
  [0, 0, 0.5],
  [10, 0, 0.5],
  [10, 10, 2],
  [0, 10, 0.5],
] as const

describe('the band round an outline', () => {
  it('is as wide as the error at each place, on both sides', () => {
    const numbers = bandPath(square, 0.1)
      .match(/-?\d+\.\d+/g)!
      .map(Number)
    expect(numbers).toHaveLength(16)
    const [outer, inner] = [numbers.slice(4, 6), numbers.slice(12, 14)]
    expect(Math.hypot(outer[0]! - inner[0]!, outer[1]! - inner[1]!)).toBeCloseTo(4, 1)
  })
  it('is never too narrow to be seen', () => {
    const numbers = bandPath(square, 3)
      .match(/-?\d+\.\d+/g)!
      .map(Number)
    expect(Math.hypot(numbers[0]! - numbers[8]!, numbers[1]! - numbers[9]!)).toBeCloseTo(6, 1)
  })
  it('is nothing for no ring', () => expect(bandPath([[0, 0, 1]], 1)).toBe(''))
})

describe('a drawn stroke', () => {
  it('loses points that lie on one another', () => {
    expect(
      thinned(
        [
          [0, 0],
          [0.1, 0],
          [1, 0],
          [1.2, 0],
          [2, 0],
        ],
        0.5,
      ),
    ).toEqual([
      [0, 0],
      [1, 0],
      [2, 0],
    ])
  })
})

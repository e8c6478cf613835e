import { describe, expect, it } from 'vitest'
import { toSlider, toTolerance } from './tolerance'

describe('the tolerance on a slider', () => {
  it('runs from a twentieth of a millimetre to five', () => {
    expect([toTolerance(-3), toTolerance(0), toTolerance(100), toTolerance(140)]).toEqual([0.05, 0.05, 5, 5])
  })
  it('half way it is the geometric mean', () => expect(toTolerance(50)).toBe(0.5))
  it('finds its place again', () => {
    for (const mm of [0.05, 0.11, 0.5, 1.3, 5]) expect(Math.abs(toTolerance(toSlider(mm)) / mm - 1)).toBeLessThan(0.08)
    expect(toSlider(20)).toBe(100)
  })
})

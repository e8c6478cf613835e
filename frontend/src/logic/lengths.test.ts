import { describe, expect, it } from 'vitest'
import { asTyped } from './lengths'

describe('a length as it could be typed', () => {
  it('is in the unit, without digits that say nothing', () => {
    expect([asTyped('mm', 0.05), asTyped('mm', 120), asTyped('cm', 12.5), asTyped('in', 25.4)]).toEqual(['0.05', '120', '1.25', '1'])
    expect(asTyped('in', 0.5)).toBe('0.0197')
  })
  it('has no minus before nothing', () => expect(asTyped('mm', -0.001)).toBe('0'))
})

import { expect, it } from 'vitest'
import { ringPath } from './rings'

it('runs on from edge to edge and closes', () => {
  expect(ringPath([{ path: 'M0 0 L10 0' }, { path: 'M10 0 L10 -5' }])).toBe('M0 0 L10 0  L10 -5 Z')
})

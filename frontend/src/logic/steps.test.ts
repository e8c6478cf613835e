import { describe, expect, it } from 'vitest'
import { bareEdges, chosenAfter, ownEdges, step } from './steps'

const rings = [[{ of: 'e3' }, { of: 'e3' }, { of: 'e1' }, { of: 'e2' }], [{ of: 'e9' }], [{ of: null }]]
const all = ownEdges(rings)

describe('stepping through the edges of a panel', () => {
  it('goes through the outline and the holes and round again', () => {
    expect(step(all, null, 1)).toBe('e3')
    expect(step(all, 'e2', 1)).toBe('e9')
    expect(step(all, 'e9', 1)).toBe('e3')
    expect(step(all, 'e3', -1)).toBe('e9')
  })

  it('has nowhere to go on a panel without edges', () => {
    expect(step([], null, 1)).toBeNull()
  })

  it('starts somewhere sensible when the chosen edge is gone', () => {
    expect(step(all, 'e44', 1)).toBe('e3')
  })
})

describe('the edges that a maker sets', () => {
  it('count a drafted edge with the one that it was made of, and an aperture’s not at all', () => {
    expect(all).toEqual(['e3', 'e1', 'e2', 'e9'])
  })
})

describe('edges without an allowance', () => {
  it('are counted once, however many parts they were drafted in', () => {
    const edge = (of: string, bare: boolean) => ({ of, bare })
    const ring = [edge('a', true), edge('a', true), edge('b', false), edge('d', true)]
    expect(bareEdges([{ rings: [ring] }, { rings: [ring, []] }])).toBe(4)
  })
})

describe('choosing edges', () => {
  it('takes one alone, or adds and takes away', () => {
    expect(chosenAfter(['e1'], 'e2', false)).toEqual(['e2'])
    expect(chosenAfter(['e1'], 'e2', true)).toEqual(['e1', 'e2'])
    expect(chosenAfter(['e1', 'e2'], 'e1', true)).toEqual(['e2'])
  })
})

import { describe, expect, it } from 'vitest'
import { chosenAfter, step } from './steps'

const rings = [['a', 'b', 'c'], ['h']]

describe('stepping through the edges of a panel', () => {
  it('goes through the outline and the holes and round again', () => {
    expect(step(rings, null, 1)).toEqual([0, 0])
    expect(step(rings, [0, 2], 1)).toEqual([1, 0])
    expect(step(rings, [1, 0], 1)).toEqual([0, 0])
    expect(step(rings, [0, 0], -1)).toEqual([1, 0])
  })

  it('has nowhere to go on a panel without edges', () => {
    expect(step([], null, 1)).toBeNull()
  })

  it('starts somewhere sensible when the chosen edge is gone', () => {
    expect(step(rings, [4, 4], 1)).toEqual([0, 0])
  })
})

describe('choosing edges', () => {
  it('takes one alone, or adds and takes away', () => {
    expect(chosenAfter([[0, 1]], [0, 2], false)).toEqual([[0, 2]])
    expect(chosenAfter([[0, 1]], [0, 2], true)).toEqual([[0, 1], [0, 2]])
    expect(chosenAfter([[0, 1], [0, 2]], [0, 1], true)).toEqual([[0, 2]])
  })
})

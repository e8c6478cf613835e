import { describe, expect, it } from 'vitest'
import { bareEdges, chosenAfter, ownEdges, step } from './steps'

const rings = [[{ of: [0, 0] }, { of: [0, 0] }, { of: [0, 1] }, { of: [0, 2] }], [{ of: [1, 0] }], [{ of: null }]]
const all = ownEdges(rings)

describe('stepping through the edges of a panel', () => {
  it('goes through the outline and the holes and round again', () => {
    expect(step(all, null, 1)).toEqual([0, 0])
    expect(step(all, [0, 2], 1)).toEqual([1, 0])
    expect(step(all, [1, 0], 1)).toEqual([0, 0])
    expect(step(all, [0, 0], -1)).toEqual([1, 0])
  })

  it('has nowhere to go on a panel without edges', () => {
    expect(step([], null, 1)).toBeNull()
  })

  it('starts somewhere sensible when the chosen edge is gone', () => {
    expect(step(all, [4, 4], 1)).toEqual([0, 0])
  })
})

describe('the edges that a maker sets', () => {
  it('count a drafted edge with the one that it was made of, and an aperture’s not at all', () => {
    expect(all).toEqual([
      [0, 0],
      [0, 1],
      [0, 2],
      [1, 0],
    ])
  })
})

describe('edges without an allowance', () => {
  it('are counted once, however many parts they were drafted in, and not where they are cut on the seam line', () => {
    const edge = (k: number, finish: string, allowance_mm: number) => ({ of: [0, k], finish, allowance_mm })
    const ring = [edge(0, 'plain', 0), edge(0, 'plain', 0), edge(1, 'bound', 0), edge(2, 'hem', 25), edge(3, 'hem', 0)]
    expect(bareEdges([{ rings: [ring] }, { rings: [ring, []] }])).toBe(4)
  })
})

describe('choosing edges', () => {
  it('takes one alone, or adds and takes away', () => {
    expect(chosenAfter([[0, 1]], [0, 2], false)).toEqual([[0, 2]])
    expect(chosenAfter([[0, 1]], [0, 2], true)).toEqual([
      [0, 1],
      [0, 2],
    ])
    expect(
      chosenAfter(
        [
          [0, 1],
          [0, 2],
        ],
        [0, 1],
        true,
      ),
    ).toEqual([[0, 2]])
  })
})

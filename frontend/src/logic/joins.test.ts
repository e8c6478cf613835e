import { describe, expect, it } from 'vitest'
import { anEdge } from '../testing/samples'
import { flagsOf, sideOf } from './joins'

const RINGS = [
  { id: 'p1', edges: ['a', 'b', 'c', 'd'].map((e) => anEdge(e)) },
  { id: 'p2', edges: ['e', 'f'].map((e) => anEdge(e)) },
]
const edges = (chosen: string[], backward = false) => sideOf(RINGS, chosen, backward).map((a) => a.edge)

describe('one side of a join', () => {
  it('goes as its edges follow one another, whatever was pointed at first', () => {
    expect(edges(['c', 'b'])).toEqual(['b', 'c'])
  })
  it('goes over the start of the ring', () => {
    expect(edges(['a', 'd'])).toEqual(['d', 'a'])
    expect(edges(['a', 'b', 'd'])).toEqual(['d', 'a', 'b'])
  })
  it('is walked the other way on the other side', () => {
    expect(sideOf(RINGS, ['b', 'c'], true)).toEqual([
      { panel: 'p1', edge: 'c', backward: true, piece: 1 },
      { panel: 'p1', edge: 'b', backward: true, piece: 1 },
    ])
  })
})

it('gives each edge the flags of its joins once', () => {
  const along = (panel: string, edge: string) => ({ panel, edge, backward: false, piece: 1 })
  const join = { id: 'j1', letter: 'A', words: '', verdict: 'equal', seam: 'plain', meant: 'equal', fullness: '1', walk: null } as const
  const joins = [{ ...join, first: [along('p1', 'a')], second: [along('p1', 'a'), along('p2', 'e')] }]
  expect(flagsOf(joins, 'p1')).toEqual(new Map([['a', ['A']]]))
  expect(flagsOf(joins, 'p2')).toEqual(new Map([['e', ['A']]]))
})

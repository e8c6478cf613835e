import { describe, expect, it } from 'vitest'
import { anEdge } from '../testing/samples'
import { flagAt, flagsOf, sideOf } from './joins'

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

it('parts the flags of edges that face each other', () => {
  const lie = { x: 0, y: 0, turn: 0, flipped: false }
  const box = (x: number) => ({ low: { x, y: -50 }, high: { x: x + 100, y: 250 } })
  const left = { kind: 'line', start: [0, 0], middle: [0, 100], outward: [1, 0] }
  const right = { kind: 'line', start: [20, 200], middle: [20, 100], outward: [-1, 0] }
  const [, low] = flagAt(left, lie, 'A', 1, [box(20)])
  const [, high] = flagAt(right, lie, 'B', 1, [box(-100)])
  expect(high - low).toBeGreaterThan(60)
})

it('plants a flag beside its edge, aside where a neighbour lies', () => {
  const edge = { kind: 'line', start: [0, 0], middle: [0, 100], outward: [1, 0] }
  const lie = { x: 500, y: 0, turn: 0, flipped: false }
  const box = (low: number, high: number) => ({ low: { x: 510, y: low }, high: { x: 900, y: high } })
  expect(flagAt(edge, lie, 'A', 1, [])).toEqual([15, 100])
  expect(flagAt(edge, lie, 'A', 1, [box(80, 300)])).toEqual([15, 65])
  expect(flagAt(edge, lie, 'A', 1, [box(-50, 120)])).toEqual([15, 135])
  expect(flagAt({ ...edge, kind: 'curve' }, lie, 'A', 1, [box(80, 300)])).toEqual([15, 100])
})

it('moves the flag of an arc along the arc, hollow or not', () => {
  const lie = { x: 0, y: 0, turn: 0, flipped: false }
  const at = (x: number) => ({ low: { x, y: -30 }, high: { x: x + 40, y: 30 } })
  const round = { kind: 'arc', start: [0, -100], middle: [100, 0], outward: [1, 0] }
  const [x, y] = flagAt(round, lie, 'C', 1, [at(110)])
  expect(Math.hypot(x, y)).toBeCloseTo(115)
  expect(y).toBeLessThan(-40)
  const hollow = { kind: 'arc', start: [0, 100], middle: [100, 0], outward: [-1, 0] }
  const [hx, hy] = flagAt(hollow, lie, 'C', 1, [at(60)])
  expect(Math.hypot(hx, hy)).toBeCloseTo(85)
  expect(hy).toBeGreaterThan(30)
})

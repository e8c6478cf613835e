import { expect, it } from 'vitest'
import { aPanel } from '../testing/samples'
import { mapOfJoins } from './joinMap'

const along = (panel: string, edge: string) => ({ panel, edge, backward: false, piece: 1 })
const JOIN = { id: 'j1', letter: 'A', words: '', seam: 'plain', meant: 'equal', fullness: '1', walk: null } as const

it('ties the middles of what is joined, where the panels lie', () => {
  const panels = [
    aPanel('lid', { lies: { at: [0, 0], turn_deg: 0, flipped: false } }),
    aPanel('wall', { lies: { at: [500, 40], turn_deg: 0, flipped: false } }),
  ]
  const joins = [{ ...JOIN, verdict: 'mismatch' as const, first: [along('lid', 'lid-a')], second: [along('wall', 'wall-a')] }]
  const { ties, box } = mapOfJoins(panels, joins)
  const [mx = 0, my = 0] = panels[0]!.rings[0]![0]!.middle
  expect(ties[0]!.ends).toEqual([
    [mx, -my],
    [mx + 500, -my - 40],
  ])
  expect(ties[0]!.wrong).toBe(true)
  expect(box[2]).toBeGreaterThan(500)
})

it('leaves out a join whose edge is gone', () => {
  const joins = [{ ...JOIN, verdict: null, first: [along('lid', 'gone')], second: [along('lid', 'lid-a')] }]
  expect(mapOfJoins([aPanel('lid')], joins).ties).toEqual([])
})

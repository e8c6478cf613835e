import { expect, it } from 'vitest'
import { aPanel } from '../testing/samples'
import { boxAbout, sharedArea } from './labelPlace'
import { mapOfJoins, writtenOn } from './joinMap'

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
    { x: mx, y: my },
    { x: mx + 500, y: my + 40 },
  ])
  expect(ties[0]!.wrong).toBe(true)
  expect(box[2]).toBeGreaterThan(500)
})

it('leaves out a join whose edge is gone', () => {
  const joins = [{ ...JOIN, verdict: null, first: [along('lid', 'gone')], second: [along('lid', 'lid-a')] }]
  expect(mapOfJoins([aPanel('lid')], joins).ties).toEqual([])
})

it('writes letters and names clear of each other, however small it is drawn', () => {
  const panels = ['front', 'back'].map((name, k) => aPanel(name, { lies: { at: [k * 300, 0], turn_deg: 0, flipped: false } }))
  const edges = ['a', 'b', 'c'].map((e, k) => ({ ...JOIN, id: `j${k}`, letter: 'ABC'[k]!, verdict: 'equal' as const, e }))
  const joins = edges.map(({ e, ...j }) => ({ ...j, first: [along('front', `front-${e}`)], second: [along('back', `back-${e}`)] }))
  const map = mapOfJoins(panels, joins)
  for (const px of [0.3, 1, 2]) {
    const { flags, names } = writtenOn(map, px)
    const letters = flags.map(({ at, size }) => boxAbout(at, size, 0))
    const words = names.flatMap((at, k) => (at ? [boxAbout(at, { width: 7 * panels[k]!.name.length * px, height: 17 * px }, 0)] : []))
    const boxes = [...letters, ...words]
    expect(letters).toHaveLength(3)
    expect(boxes.flatMap((a, k) => boxes.slice(k + 1).map((b) => sharedArea(a, b))).filter((area) => area > 1e-9)).toEqual([])
  }
})

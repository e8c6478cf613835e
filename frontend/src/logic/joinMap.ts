import type { Panel, Schemas } from '../api/client'
import { boundsOf, boxAbout, labelBeside, labelPlace, type Bounds } from './labelPlace'
import { boxOnTable, laidOut, onTable, outlineOnTable, transformOf, type Lie } from './lies'
import { ringPath } from './rings'
import { clearest } from './tags'

type At = { x: number; y: number }
/** How wide a letter of a name and of a join is, and how high both stand, pixels. */
const NAME = { letter: 7, high: 17 }
const FLAG = { letter: 8, rim: 10, high: 20 }
/** Where along a tie its letter may stand, what is tried first. */
const ALONG = [0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8]

/** The panels as they lie on the table, and a tie for each join from the middle of one of its runs to that of the other; in the
 * table’s millimetres, y up, but for the drawing’s own paths and its box. */
export function mapOfJoins(panels: readonly Panel[], joins: readonly Schemas['JoinView'][]) {
  const lies = new Map(laidOut(panels).map((lie, k) => [panels[k]!.id, lie]))
  const boxes = panels.map((p) => boxOnTable(lies.get(p.id)!, p.box))
  const low = [Math.min(...boxes.map((b) => b[0])), Math.min(...boxes.map((b) => b[1]))] as const
  const high = [Math.max(...boxes.map((b) => b[0] + b[2])), Math.max(...boxes.map((b) => b[1] + b[3]))] as const
  const around = 0.05 * Math.max(high[0] - low[0], high[1] - low[1], 1)
  const box = [low[0] - around, -high[1] - around, high[0] - low[0] + 2 * around, high[1] - low[1] + 2 * around] as const
  return {
    box,
    panels: panels.map((p) => {
      const lie = lies.get(p.id)!
      return { id: p.id, name: p.name, transform: transformOf(lie), rings: p.rings.map(ringPath), outline: outlineOnTable(lie, p.rings[0]) }
    }),
    ties: joins.flatMap((j) => {
      const ends = [j.first, j.second].map((run) => endOf(run, panels, lies))
      const [a, b] = ends
      if (!a || !b) return []
      // bowed to one side, so that ties between the same panels don’t lie on one another
      const bow = 0.14
      const control = { x: (a.x + b.x) / 2 + bow * (b.y - a.y), y: (a.y + b.y) / 2 - bow * (b.x - a.x) }
      const path = `M${a.x} ${-a.y} Q${control.x} ${-control.y} ${b.x} ${-b.y}`
      return [{ id: j.id, letter: j.letter, ends: [a, b], control, path, wrong: j.verdict === 'mismatch' || !j.verdict }]
    }),
  }
}
type JoinMap = ReturnType<typeof mapOfJoins>

/** Where the joins' letters and the panels' names stand where a pixel is `px` mm: letters on their ties, clear of each other; names
 * clear of them, in their panels or else beside them, or nowhere. */
export function writtenOn({ panels, ties }: JoinMap, px: number) {
  const flags: { at: At; size: { width: number; height: number } }[] = []
  const taken: Bounds[] = []
  for (const { letter, ends, control } of ties) {
    const size = { width: (FLAG.rim + FLAG.letter * letter.length) * px, height: FLAG.high * px }
    const places = ALONG.map((t) => alongTie(ends[0]!, control, ends[1]!, t))
    const at = places[clearest(places, size, taken)]!
    flags.push({ at, size })
    taken.push(boxAbout(at, size, 0))
  }
  const boxes = panels.map((p) => boundsOf(p.outline))
  const names = panels.map(({ name, outline }, k) => {
    const size = { width: NAME.letter * name.length * px, height: NAME.high * px }
    const { low, high } = boxes[k]!
    const others = boxes.filter((_, j) => j !== k)
    const at =
      labelPlace(outline, taken, size, { x: (low.x + high.x) / 2, y: (low.y + high.y) / 2 }, px) ??
      labelBeside(outline, others, taken, size, px)
    if (at) taken.push(boxAbout(at, size, 0))
    return at
  })
  return { flags, names }
}

/** A place of a tie, 0 at its first end and 1 at its second. */
function alongTie(a: At, control: At, b: At, t: number): At {
  const [p, q, r] = [(1 - t) ** 2, 2 * t * (1 - t), t ** 2]
  return { x: p * a.x + q * control.x + r * b.x, y: p * a.y + q * control.y + r * b.y }
}

/** The middle of the middle edge of a run. */
function endOf(run: Schemas['JoinView']['first'], panels: readonly Panel[], lies: ReadonlyMap<string, Lie>): At | null {
  const along = run[Math.floor(run.length / 2)]
  const panel = panels.find((p) => p.id === along?.panel)
  const edge = panel?.rings[0]?.find((e) => e.of === along?.edge)
  if (!panel || !edge) return null
  return onTable(lies.get(panel.id)!, { x: edge.middle[0] ?? 0, y: edge.middle[1] ?? 0 })
}

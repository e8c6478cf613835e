import type { Panel, Schemas } from '../api/client'
import { ringPath } from './rings'
import { boxOnTable, laidOut, onTable, transformOf, type Lie } from './lies'

type Point = readonly [number, number]
const PIXELS = 800

/** The panels as they lie on the table, and a tie for each join from the middle of one of its runs to that of the other; in the
 * drawing’s millimetres, y down. */
export function mapOfJoins(panels: readonly Panel[], joins: readonly Schemas['JoinView'][]) {
  const lies = new Map(laidOut(panels).map((lie, k) => [panels[k]!.id, lie]))
  const boxes = panels.map((p) => boxOnTable(lies.get(p.id)!, p.box))
  const low = [Math.min(...boxes.map((b) => b[0])), Math.min(...boxes.map((b) => b[1]))] as const
  const high = [Math.max(...boxes.map((b) => b[0] + b[2])), Math.max(...boxes.map((b) => b[1] + b[3]))] as const
  const around = 0.05 * Math.max(high[0] - low[0], high[1] - low[1], 1)
  const box = [low[0] - around, -high[1] - around, high[0] - low[0] + 2 * around, high[1] - low[1] + 2 * around] as const
  return {
    box,
    px: box[2] / PIXELS,
    panels: panels.map((p, k) => ({
      id: p.id,
      name: p.name,
      transform: transformOf(lies.get(p.id)!),
      rings: p.rings.map(ringPath),
      middle: [boxes[k]![0] + boxes[k]![2] / 2, -boxes[k]![1] - boxes[k]![3] / 2] as const,
    })),
    ties: joins.flatMap((j) => {
      const ends = [j.first, j.second].map((run) => endOf(run, panels, lies))
      const [a, b] = ends
      if (!a || !b) return []
      // bowed to one side, so that ties between the same panels don’t lie on one another
      const bow = 0.14
      const control: Point = [(a[0] + b[0]) / 2 - bow * (b[1] - a[1]), (a[1] + b[1]) / 2 + bow * (b[0] - a[0])]
      const flag: Point = [(a[0] + 2 * control[0] + b[0]) / 4, (a[1] + 2 * control[1] + b[1]) / 4]
      const path = `M${a.join(' ')} Q${control.join(' ')} ${b.join(' ')}`
      return [{ id: j.id, letter: j.letter, ends: [a, b], path, flag, wrong: j.verdict === 'mismatch' || !j.verdict }]
    }),
  }
}

/** The middle of the middle edge of a run. */
function endOf(run: Schemas['JoinView']['first'], panels: readonly Panel[], lies: ReadonlyMap<string, Lie>): Point | null {
  const along = run[Math.floor(run.length / 2)]
  const panel = panels.find((p) => p.id === along?.panel)
  const edge = panel?.rings[0]?.find((e) => e.of === along?.edge)
  if (!panel || !edge) return null
  const at = onTable(lies.get(panel.id)!, { x: edge.middle[0] ?? 0, y: edge.middle[1] ?? 0 })
  return [at.x, -at.y]
}

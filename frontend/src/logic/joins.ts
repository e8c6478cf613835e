import type { Schemas, SeamEdge } from '../api/client'
import { boxAbout, sharedArea, type Bounds } from './labelPlace'
import { onTable, type Lie } from './lies'

type Along = Schemas['Along']
interface Ring {
  id: string
  edges: readonly SeamEdge[]
}

/** The edges of one side of a join, by their ids, in the order in which they are walked: as they follow one another on their
 * panel; the side that is sewn face to face with it is walked `backward`. */
export function sideOf(rings: readonly Ring[], chosen: readonly string[], backward: boolean): Along[] {
  const run = rings.flatMap((ring) => {
    const own = [...new Set(ring.edges.map((e) => e.of))].filter((id): id is string => !!id)
    const picked = own.map((id) => chosen.includes(id))
    // a run that goes over the ring’s start begins behind its gap
    const gap = picked.lastIndexOf(false)
    const start = picked[0] && picked.at(-1) && gap >= 0 ? gap + 1 : 0
    const turned = [...own.slice(start), ...own.slice(0, start)].filter((id) => chosen.includes(id))
    return turned.map((edge) => ({ panel: ring.id, edge, backward, piece: 1 }))
  })
  return backward ? run.reverse() : run
}

/** The flags of a panel’s edges: of each edge, by its id, the letters of the joins that it is sewn in. */
export function flagsOf(joins: readonly Schemas['JoinView'][], panel: string): Map<string, string[]> {
  const flags = new Map<string, string[]>()
  for (const j of joins)
    for (const along of [...j.first, ...j.second]) {
      const own = flags.get(along.edge) ?? []
      if (along.panel === panel && !own.includes(j.letter)) flags.set(along.edge, [...own, j.letter])
    }
  return flags
}

const FLAG = { off: 15, high: 20, before: 9, letter: 9, after: 6 }
/** Along an edge from its middle towards its start, where its flag may fly where its middle isn’t clear. */
const ASIDE = [0.35, -0.35, 0.7, -0.7]

interface Planted {
  kind: string
  start: readonly number[]
  middle: readonly number[]
  outward: readonly number[]
}

/** What a flag that is planted at a place of its panel covers on the table. */
export function flagBox([x, y]: readonly [number, number], lie: Lie, text: string, px: number): Bounds {
  const pole = onTable(lie, { x, y })
  const size = { width: (FLAG.before + FLAG.letter * text.length + FLAG.after) * px, height: FLAG.high * px }
  return boxAbout({ x: pole.x + size.width / 2 - FLAG.before * px, y: pole.y }, size, 0)
}

/** Where an edge’s flag is planted in its panel: beside its middle or, where a line or an arc has one of the `others` there, boxes
 * on the table, aside. Where all of it lies against one it is aside too, as those of edges that face each other part so. */
export function flagAt(edge: Planted, lie: Lie, text: string, px: number, others: readonly Bounds[]): readonly [number, number] {
  const planted = (share: number) => beside(edge, share, FLAG.off * px)
  const isClear = (at: readonly [number, number]) => others.every((other) => !sharedArea(flagBox(at, lie, text, px), other))
  const middle = planted(0)
  if (edge.kind === 'curve' || isClear(middle)) return middle
  const aside = ASIDE.map(planted)
  return aside.find(isClear) ?? aside[0]!
}

/** The place `off` mm outside a line or an arc, a share of the way from its middle towards its start. */
function beside({ kind, start, middle, outward }: Planted, share: number, off: number): readonly [number, number] {
  const [sx = 0, sy = 0, mx = 0, my = 0, ox = 0, oy = 0] = [...start, ...middle, ...outward]
  const [dx, dy] = [sx - mx, sy - my]
  if (kind !== 'arc') return [mx + share * dx + off * ox, my + share * dy + off * oy]
  // its centre lies behind its middle, as far from there as from its start
  const radius = -(dx * dx + dy * dy) / (2 * (dx * ox + dy * oy))
  const [cx, cy] = [mx - radius * ox, my - radius * oy]
  const [rx, ry] = [(sx - cx) / radius, (sy - cy) / radius]
  const turn = share * Math.atan2(ox * ry - oy * rx, ox * rx + oy * ry)
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  return [cx + (radius + off) * (c * ox - s * oy), cy + (radius + off) * (s * ox + c * oy)]
}

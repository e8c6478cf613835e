import type { Bounds } from './labelPlace'
import { carried, drawn, type At, type Transform } from './transform'

/** Where a panel lies on the table: its frame's origin in mm (y up), turned, and flipped before that. */
export interface Lie {
  x: number
  y: number
  turn: number
  flipped: boolean
}

type Box = readonly [x: number, y: number, width: number, height: number]
/** A box of the table, by the name of what fills it. */
export interface TableBox extends Bounds {
  of: string
}
const GAP_MM = 60
const TABLE_ASPECT = 3

/** From the panel's frame to the table's. */
export function mapOf(lie: Lie): Transform {
  const angle = (lie.turn * Math.PI) / 180
  const [c, s, side] = [Math.cos(angle), Math.sin(angle), lie.flipped ? -1 : 1]
  return { a: side * c, b: -s, c: side * s, d: c, x: lie.x, y: lie.y }
}

/** From the panel's frame to the table's, both with y up. */
export function onTable(lie: Lie, p: At): At {
  return carried(mapOf(lie), p)
}

/** The straight runs of a ring of the panel, as they lie on the table. */
export const outlineOnTable = (lie: Lie, ring: readonly { start: readonly number[]; middle: readonly number[] }[] = []): At[] =>
  ring.flatMap((e) => [e.start, e.middle].map(([x = 0, y = 0]) => onTable(lie, { x, y })))

/** A place on a drafted panel, led back to the outline as it was set. */
export function asSet(p: At, way: Transform | null | undefined): At {
  return way ? carried(way, p) : p
}

/** The transform that draws a panel there, for a drawing with y down. */
export function transformOf(lie: Lie): string {
  return drawn(mapOf(lie))
}

/** Text at a place of a panel, y down, turned back so that it can be read on one that lies turned or flipped. */
export const upright = (lie: Lie, x: number, y: number) => `translate(${x} ${y})${lie.flipped ? ' scale(-1 1)' : ''} rotate(${lie.turn})`

/** The box that a panel's box fills on the table. */
export function boxOnTable(lie: Lie, [x, y, w, h]: Box): Box {
  const corners = [
    { x, y },
    { x: x + w, y },
    { x: x + w, y: y + h },
    { x, y: y + h },
  ].map((p) => onTable(lie, p))
  const xs = corners.map((p) => p.x)
  const ys = corners.map((p) => p.y)
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)]
}

/** Where every panel lies: where the maker put it, or in rows behind those that were put, so that all of them make a table
 * about as wide as it is shown. */
export function laidOut(
  panels: readonly { box: readonly number[]; lies?: { at: readonly number[]; turn_deg?: number; flipped?: boolean } | null }[],
): Lie[] {
  const given = panels.map((p) =>
    p.lies ? { x: p.lies.at[0] ?? 0, y: p.lies.at[1] ?? 0, turn: p.lies.turn_deg ?? 0, flipped: p.lies.flipped ?? false } : null,
  )
  const boxes = panels.map((p) => [p.box[0] ?? 0, p.box[1] ?? 0, p.box[2] ?? 0, p.box[3] ?? 0] as const)
  const edge = given.reduce((far, lie, k) => {
    if (!lie) return far
    const [x, , w] = boxOnTable(lie, boxes[k]!)
    return Math.max(far, x + w + GAP_MM)
  }, 0)
  const rows = inRows(boxes.map(([, , w, h], k) => ({ k, w, h })).filter(({ k }) => !given[k]))
  const placed = new Map<number, Lie>()
  let foot = 0
  rows.forEach((row, r) => {
    if (r) foot -= Math.max(...row.map((p) => p.h)) + GAP_MM
    let at = edge
    for (const { k, w } of row) {
      const [x, y] = boxes[k]!
      placed.set(k, { x: at - x, y: foot - y, turn: 0, flipped: false })
      at += w + GAP_MM
    }
  })
  return given.map((lie, k) => lie ?? placed.get(k)!)
}

/** Parted into rows, in their order, none much wider than makes the table's shape. */
function inRows<P extends { w: number; h: number }>(panels: readonly P[]): P[][] {
  const area = panels.reduce((sum, p) => sum + (p.w + GAP_MM) * (p.h + GAP_MM), 0)
  const widest = Math.max(Math.sqrt(TABLE_ASPECT * area), ...panels.map((p) => p.w))
  const rows: P[][] = []
  let width = Infinity
  for (const p of panels) {
    if (width + p.w > widest) {
      rows.push([])
      width = 0
    }
    rows.at(-1)?.push(p)
    width += p.w + GAP_MM
  }
  return rows
}

/** Turned by some degrees, or flipped, about the middle of its own box, which stays where it is. */
export function turnedAbout(lie: Lie, [x, y, w, h]: Box, by: number, flip: boolean): Lie {
  const middle = { x: x + w / 2, y: y + h / 2 }
  const before = onTable(lie, middle)
  const made = { ...lie, flipped: flip ? !lie.flipped : lie.flipped, turn: ((((flip ? -lie.turn : lie.turn) + by) % 360) + 360) % 360 }
  const after = onTable(made, middle)
  return { ...made, x: made.x + before.x - after.x, y: made.y + before.y - after.y }
}

type At = { x: number; y: number }
type Size = { width: number; height: number }
export interface Bounds {
  low: At
  high: At
}

const STEPS = 14
/** So many rims beside all that lies on the table are still seen when all of it is. */
const FAR = 9

export const boundsOf = (points: readonly At[]): Bounds => ({
  low: { x: Math.min(...points.map((p) => p.x)), y: Math.min(...points.map((p) => p.y)) },
  high: { x: Math.max(...points.map((p) => p.x)), y: Math.max(...points.map((p) => p.y)) },
})

/**
 * Where a label of a size is written on a panel: as near as can be to its `wanted` place, inside the outline and clear of
 * what is drawn there; null where it has no room. All in one frame and unit, y up; `rim` is how far it keeps off.
 */
export function labelPlace(outline: readonly At[], drawn: readonly Bounds[], size: Size, wanted: At, rim: number): At | null {
  const fits = (p: At) => {
    const box = boxAbout(p, size, rim)
    return !drawn.some((b) => overlap(b, box)) && isInside(outline, box)
  }
  if (fits(wanted)) return wanted
  const { low, high } = boundsOf(outline)
  const along = (from: number, to: number, k: number) => from + ((to - from) * k) / STEPS
  const steps = Array.from({ length: STEPS - 1 }, (_, k) => k + 1)
  const spots = steps.flatMap((i) => steps.map((j) => ({ x: along(low.x, high.x, i), y: along(low.y, high.y, j) })))
  const away = (p: At) => Math.hypot(p.x - wanted.x, p.y - wanted.y)
  return spots.sort((a, b) => away(a) - away(b)).find(fits) ?? null
}

/**
 * Where a label stands beside a panel that has no room for it: on the first side that is clear of the `others`' boxes and of what
 * stands `beside` them already, and no farther left or right of all that lies there than is seen of the table; null where none
 * is, as at a distance.
 */
export function labelBeside(
  outline: readonly At[],
  others: readonly Bounds[],
  beside: readonly Bounds[],
  size: Size,
  rim: number,
): At | null {
  const { low, high } = boundsOf(outline)
  const left = Math.min(low.x, ...others.map((b) => b.low.x)) - FAR * rim
  const right = Math.max(high.x, ...others.map((b) => b.high.x)) + FAR * rim
  const [wide, deep] = [size.width / 2, size.height / 2]
  const inSight = (x: number) => (right - left < size.width ? (left + right) / 2 : Math.max(left + wide, Math.min(right - wide, x)))
  // one that is longer than the panel begins at its left
  const along = inSight(Math.max((low.x + high.x) / 2, low.x + wide))
  const [middle, off] = [(low.y + high.y) / 2, { x: wide + 3 * rim, y: deep + 3 * rim }]
  const nextTo = (y: number): At[] => [
    { x: high.x + off.x, y },
    { x: low.x - off.x, y },
  ]
  const under = (x: number): At[] => [
    { x, y: low.y - off.y },
    { x, y: high.y + off.y },
  ]
  const [toRight, toLeft] = nextTo(middle) as [At, At]
  const aside = [low.x + wide, high.x - wide, low.x, high.x].map(inSight).flatMap(under)
  const sides = [toRight, ...under(along), toLeft, ...aside, ...nextTo(high.y - deep), ...nextTo(low.y + deep)]
  const farOut = (at: At) => Math.max(left - at.x + wide, at.x + wide - right)
  const taken = [...others, ...beside]
  return sides.find((at) => farOut(at) <= 0 && !taken.some((b) => overlap(b, boxAbout(at, size, rim)))) ?? null
}

/**
 * Where the words of a mark stand, from its spot: `inward` of it, up (1) or down (-1), else beside it, else ending or beginning
 * there, where no line of the outline and nothing that is drawn runs through them, and all of them is `inSight`; null where they
 * have no room, for over the allowance they can't be read.
 */
export function besideSpot(
  outline: readonly At[],
  drawn: readonly Bounds[],
  size: Size,
  spot: At,
  off: number,
  inward: 1 | -1,
  inSight: Bounds = EVERYWHERE,
): At | null {
  const [x, y] = [size.width / 2 + off, size.height / 2 + off]
  const ways: At[] = [
    { x: 0, y: inward * y },
    { x, y: 0 },
    { x: -x, y: 0 },
    { x: -size.width / 2, y: inward * y },
    { x: size.width / 2, y: inward * y },
  ]
  const clear = (way: At) => {
    const box = boxAbout({ x: spot.x + way.x, y: spot.y + way.y }, size, 0)
    return (
      holds(inSight, box) &&
      !drawn.some((b) => overlap(b, box)) &&
      isInside(outline, box) &&
      !outline.some((a, k) => runsThrough(a, outline[(k + 1) % outline.length]!, box))
    )
  }
  return ways.find(clear) ?? null
}

const EVERYWHERE: Bounds = { low: { x: -Infinity, y: -Infinity }, high: { x: Infinity, y: Infinity } }
const holds = (a: Bounds, b: Bounds) => a.low.x <= b.low.x && a.low.y <= b.low.y && b.high.x <= a.high.x && b.high.y <= a.high.y

/** Whether a straight line from `a` to `b` runs through a box. */
const runsThrough = (a: At, b: At, box: Bounds) => shareWithin(a, b, box) > 0

/** Which share of a straight line from `a` to `b` runs through a box. */
export function shareWithin(a: At, b: At, { low, high }: Bounds): number {
  let [from, to] = [0, 1]
  for (const axis of ['x', 'y'] as const) {
    const way = b[axis] - a[axis]
    const ends = way
      ? [(low[axis] - a[axis]) / way, (high[axis] - a[axis]) / way]
      : a[axis] > low[axis] && a[axis] < high[axis]
        ? [0, 1]
        : [2, 2]
    from = Math.max(from, Math.min(...ends))
    to = Math.min(to, Math.max(...ends))
  }
  return Math.max(0, to - from)
}

export const grown = ({ low, high }: Bounds, rim: number): Bounds => ({
  low: { x: low.x - rim, y: low.y - rim },
  high: { x: high.x + rim, y: high.y + rim },
})
export const boxAbout = (p: At, size: Size, rim: number): Bounds => {
  const half = { x: size.width / 2, y: size.height / 2 }
  return grown({ low: { x: p.x - half.x, y: p.y - half.y }, high: { x: p.x + half.x, y: p.y + half.y } }, rim)
}
/** How much of an area two boxes share. */
export const sharedArea = (a: Bounds, b: Bounds) =>
  Math.max(0, Math.min(a.high.x, b.high.x) - Math.max(a.low.x, b.low.x)) *
  Math.max(0, Math.min(a.high.y, b.high.y) - Math.max(a.low.y, b.low.y))
const overlap = (a: Bounds, b: Bounds) => a.low.x < b.high.x && b.low.x < a.high.x && a.low.y < b.high.y && b.low.y < a.high.y

/** Whether a box lies inside an outline of points: its corners do, and no point of the outline in it. */
function isInside(outline: readonly At[], { low, high }: Bounds): boolean {
  if (outline.some((p) => p.x > low.x && p.x < high.x && p.y > low.y && p.y < high.y)) return false
  const corners = [low, { x: high.x, y: low.y }, high, { x: low.x, y: high.y }]
  return corners.every((c) => isWithin(outline, c))
}

function isWithin(outline: readonly At[], p: At): boolean {
  let within = false
  outline.forEach((a, k) => {
    const b = outline[(k + 1) % outline.length]!
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) within = !within
  })
  return within
}

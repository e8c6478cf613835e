import { boxAbout, sharedArea, shareWithin, type Bounds } from './labelPlace'

type At = { x: number; y: number }
type Size = { width: number; height: number }

/** How high a tag on the work is, pixels. */
export const TAG_HEIGHT = 28
/** How wide one with this text is. */
export const tagWidth = (text: string) => text.length * 8.4 + 24
/** The box of one about a place, where a pixel is `px`. */
export const tagBox = (at: At, text: string, px: number): Bounds => boxAbout(at, { width: tagWidth(text) * px, height: TAG_HEIGHT * px }, 0)
/** How far a grain arrow’s heads reach to each side of it, pixels. */
export const GRAIN_PX = 12
/** The box of a marked place's circle, which reaches so many pixels from its middle. */
const SPOT_PX = 6
export const spotBox = (at: At, px: number): Bounds => boxAbout(at, { width: 0, height: 0 }, SPOT_PX * px)
/** What is seen about all that lies on the table while all of it is, pixels. */
export const AROUND_PX = 48
/** What the tools at the table's foot take of it, pixels. */
const FOOT = 70
const RIM = 8

/** The directions that a tag may hang in, from the one that is wanted, in degrees; what is tried first. */
const TURNS = [0, 40, -40, 80, -80, 110, -110, 180]

/** So much farther off, pixels, where there is no room nearer. */
const FARTHER = [0, 90, 180, 270]

/** How wide the string of a tag is reckoned where it runs over something, pixels. */
const STRING_PX = 2

/** The middle of a tag of a size that hangs `off` px from a place in the direction `away`, moved into the room where it would
 * leave it; in another direction, or else farther off, where it would cover its place or one of the `others`, boxes in the
 * room's pixels, or its string run over one. */
export function placedTag(at: At, away: At, off: number, own: Size, room: Size, others: readonly Bounds[] = []): At {
  const hung = (degrees: number, farther: number) => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
    const way = { x: c * away.x - s * away.y, y: s * away.x + c * away.y }
    const reach = Math.abs(way.x) * (own.width / 2) + Math.abs(way.y) * (own.height / 2) + off + farther
    return {
      x: within(at.x + way.x * reach, own.width / 2 + RIM, room.width - own.width / 2 - RIM),
      y: within(at.y + way.y * reach, own.height / 2 + RIM, room.height - own.height / 2 - FOOT),
    }
  }
  const crossed = (p: At, other: Bounds) => STRING_PX * Math.hypot(p.x - at.x, p.y - at.y) * shareWithin(at, p, other)
  const covered = (p: At) => {
    const box = boxAbout(p, own, 0)
    const place = Math.abs(p.x - at.x) < own.width / 2 && Math.abs(p.y - at.y) < own.height / 2 ? own.width * own.height : 0
    return others.reduce((sum, other) => sum + sharedArea(box, other) + crossed(p, other), place)
  }
  const spots = FARTHER.flatMap((farther) => TURNS.map((turn) => hung(turn, farther)))
  return spots[leastOf(spots.map(covered))]!
}

/** Which of some places it is, the first one whose tag of a size covers least of the `others`. */
export const clearest = (places: readonly At[], own: Size, others: readonly Bounds[]): number =>
  leastOf(places.map((p) => others.reduce((sum, other) => sum + sharedArea(boxAbout(p, own, 0), other), 0)))

const leastOf = (values: readonly number[]) => values.indexOf(Math.min(...values))

/** Which of the boxes have room: each that shares nothing with what is `taken` nor with one before it that has; `first` comes
 * before all others and always has it. */
export function withRoom(boxes: readonly Bounds[], taken: readonly Bounds[] = [], first?: number): boolean[] {
  const drawn = [...taken]
  const has = boxes.map(() => false)
  const order = boxes.map((_, k) => k).sort((a, b) => Number(b === first) - Number(a === first))
  for (const k of order) {
    if (k !== first && drawn.some((other) => sharedArea(other, boxes[k]!) > 0)) continue
    has[k] = true
    drawn.push(boxes[k]!)
  }
  return has
}

const within = (value: number, low: number, high: number) => Math.max(low, Math.min(value, Math.max(low, high)))

type At = { x: number; y: number }
type Size = { width: number; height: number }

/** How high a tag on the work is, pixels. */
export const TAG_HEIGHT = 28
/** How wide one with this text is. */
export const tagWidth = (text: string) => text.length * 8.4 + 24
/** What the tools at the table's foot take of it, pixels. */
const FOOT = 70
const RIM = 8

/** The middle of a tag of a size that hangs `off` px from a place in the direction `away`, moved into the room where it would
 * leave it, and to the other side of the place where it would cover it. */
export function placedTag(at: At, away: At, off: number, own: Size, room: Size): At {
  const reach = Math.abs(away.x) * (own.width / 2) + Math.abs(away.y) * (own.height / 2) + off
  const held = (way: number) => ({
    x: within(at.x + way * away.x * reach, own.width / 2 + RIM, room.width - own.width / 2 - RIM),
    y: within(at.y + way * away.y * reach, own.height / 2 + RIM, room.height - own.height / 2 - FOOT),
  })
  const covers = (p: At) => Math.abs(p.x - at.x) < own.width / 2 && Math.abs(p.y - at.y) < own.height / 2
  const [outside, inside] = [held(1), held(-1)]
  return covers(outside) && !covers(inside) ? inside : outside
}

const within = (value: number, low: number, high: number) => Math.max(low, Math.min(value, Math.max(low, high)))

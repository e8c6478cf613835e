import type { Schemas } from '../api/client'

type Notch = Schemas['DraftedNotch']
/** How wide a notch is drawn to each side, and how far apart the two of a double one are, mm. */
const HALF_WIDTH = 2.4
const APART = 1.6

/** The paths of notches: a small wedge from the cutting line towards the seam line, as deep as it is cut. */
export const notchPaths = (notches: readonly Notch[]): string[] =>
  notches.flatMap((n) => {
    const [dx, dy] = [n.on_seam[0] - n.on_cut[0], n.on_seam[1] - n.on_cut[1]]
    const length = Math.hypot(dx, dy)
    const depth = length ? n.depth_mm / length : 0
    const tip = [n.on_cut[0] + dx * depth, n.on_cut[1] + dy * depth] as const
    const side = length ? ([(-dy / length) * HALF_WIDTH, (dx / length) * HALF_WIDTH] as const) : ([HALF_WIDTH, 0] as const)
    const shifts = n.double ? [-APART, APART] : [0]
    return shifts.map((s) => {
      const [ox, oy] = [(side[0] / HALF_WIDTH) * s, (side[1] / HALF_WIDTH) * s]
      const at = (x: number, y: number) => `${x + ox} ${-(y + oy)}`
      const [x, y] = n.on_cut
      return `M${at(x + side[0], y + side[1])} L${at(tip[0], tip[1])} L${at(x - side[0], y - side[1])}`
    })
  })

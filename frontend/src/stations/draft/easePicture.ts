import type { Box } from '../../logic/viewport'

const WIDE = 288
const HIGH = 258
/** Where on the picture the panel is drawn, pixels: beside it the figures stand. */
const PLACE = { left: 106, top: 88, width: 104, height: 84 }
const LARGER = 1.14

/**
 * A drawing of a panel’s box with its eases, y down: the view that leaves room for figures round it, the seam line drawn `larger`
 * about the middle, and arrows across, up, round the girth and out of it.
 */
export function easePicture([x, y, width, height]: Box) {
  const scale = Math.max(width / PLACE.width, height / PLACE.height, 1e-6)
  const [cx, cy] = [x + width / 2, -(y + height / 2)]
  const px = (pixels: number) => pixels * scale
  const [left, top] = [cx - px(PLACE.left + PLACE.width / 2), cy - px(PLACE.top + PLACE.height / 2)]
  const [w, h] = [(width / 2) * LARGER, (height / 2) * LARGER]
  const [below, beside, girth] = [cy + h + px(13), cx - w - px(13), cx + w + px(16)]
  /** The tip of an arrow that points in a direction. */
  const tip = (tx: number, ty: number, dx: number, dy: number) => {
    const [bx, by] = [tx - dx * px(7), ty - dy * px(7)]
    return `M${bx - dy * px(4)} ${by + dx * px(4)}L${tx} ${ty}L${bx + dy * px(4)} ${by - dx * px(4)}`
  }
  const [ox, oy] = [cx - w * 0.8 - px(8), cy - h - px(10)]
  return {
    viewBox: `${left} ${top} ${px(WIDE)} ${px(HIGH)}`,
    larger: `translate(${cx} ${cy}) scale(${LARGER}) translate(${-cx} ${-cy})`,
    arrows: [
      `M${cx - w} ${below}H${cx + w}${tip(cx - w, below, -1, 0)}${tip(cx + w, below, 1, 0)}`,
      `M${beside} ${cy - h}V${cy + h}${tip(beside, cy - h, 0, -1)}${tip(beside, cy + h, 0, 1)}`,
      `M${cx + w * 0.1} ${cy - h - px(10)}Q${girth} ${cy - h - px(10)} ${girth} ${cy + h * 0.4}${tip(girth, cy + h * 0.4, 0, 1)}`,
      `M${cx - (width / 2) * 0.8} ${cy - (height / 2) * 0.75}L${ox} ${oy}${tip(ox, oy, -0.6, -0.8)}`,
    ],
  }
}

import { AROUND_PX } from './tags'

/** What part of the table a window shows: `x`, `y` in mm at the window's upper left, `scale` in px per mm. y runs down. */
export interface Viewport {
  readonly x: number
  readonly y: number
  readonly scale: number
}

export interface Size {
  readonly width: number
  readonly height: number
}

/** x, y, width, height in mm with y up, as the server gives boxes. */
export type Box = readonly [number, number, number, number]

const MOST = 60
const LEAST = 0.02

/** What a name that is written below the work needs more of the foot, beside the scale bar, pixels. */
const FOOT = 16

/** The viewport that shows the whole box in the middle, with some px free on every side for what hangs on the work. */
export function fit(box: Box, size: Size): Viewport {
  const margin = Math.min(70, Math.max(AROUND_PX, size.width * 0.08))
  const [x, y, width, height] = box
  const room = { width: Math.max(size.width - 2 * margin, 40), height: Math.max(size.height - 2 * margin - FOOT, 40) }
  const scale = clamp(Math.min(room.width / Math.max(width, 1), room.height / Math.max(height, 1)))
  return { scale, x: x + width / 2 - size.width / scale / 2, y: -(y + height / 2) - (size.height - FOOT) / scale / 2 }
}

/** Zoomed by `factor`; the point of the table under (px, py) stays there. */
export function zoom(view: Viewport, factor: number, px: number, py: number): Viewport {
  const scale = clamp(view.scale * factor)
  return { scale, x: view.x + px / view.scale - px / scale, y: view.y + py / view.scale - py / scale }
}

export function pan(view: Viewport, dx: number, dy: number): Viewport {
  return { ...view, x: view.x - dx / view.scale, y: view.y - dy / view.scale }
}

/** The table's point in mm, y up, under a pixel of the window. */
export function toTable(view: Viewport, px: number, py: number): { x: number; y: number } {
  return { x: view.x + px / view.scale, y: -(view.y + py / view.scale) }
}

/** The pixel of the window at which a point of the table, mm with y up, is seen. */
export function toWindow(view: Viewport, p: { x: number; y: number }): { x: number; y: number } {
  return { x: (p.x - view.x) * view.scale, y: (-p.y - view.y) * view.scale }
}

/** Whether all of a box is seen. */
export function sees(view: Viewport, size: Size, [x, y, width, height]: Box): boolean {
  const [low, high] = [toWindow(view, { x, y }), toWindow(view, { x: x + width, y: y + height })]
  return low.x >= 0 && high.y >= 0 && high.x <= size.width && low.y <= size.height
}

/** A round length in mm that a scale bar of about `px` pixels can stand for. */
export function barLength(view: Viewport, px = 120): number {
  const about = px / view.scale
  const power = 10 ** Math.floor(Math.log10(about))
  return [5, 2, 1].map((n) => n * power).find((n) => n <= about) ?? power
}

function clamp(scale: number): number {
  return Math.min(MOST, Math.max(LEAST, scale))
}

/** How much of a drawing's frame one pixel is where all of it is shown in a window, keeping its proportions. */
export const pixelOf = (frame: Size, window: Size) =>
  Math.max(frame.width / Math.max(window.width, 1), frame.height / Math.max(window.height, 1))

import type { Schemas } from '../api/client'

/** A map of the plane, (p, q) ↦ (a·p + b·q + x, c·p + d·q + y), lengths in mm with y up: the server's own form. */
export type Transform = Schemas['Transform']
export type At = { x: number; y: number }

export function carried({ a = 1, b = 0, c = 0, d = 1, x = 0, y = 0 }: Transform, p: At): At {
  return { x: a * p.x + b * p.y + x, y: c * p.x + d * p.y + y }
}

/** The way back; the map must not end on one line. */
export function inverse({ a = 1, b = 0, c = 0, d = 1, x = 0, y = 0 }: Transform): Transform {
  const area = a * d - b * c
  return { a: d / area, b: -b / area, c: -c / area, d: a / area, x: (b * y - d * x) / area, y: (c * x - a * y) / area }
}

/** The same as an SVG transform, for a drawing with y down. */
export function drawn({ a = 1, b = 0, c = 0, d = 1, x = 0, y = 0 }: Transform): string {
  return `matrix(${a} ${-c} ${-b} ${d} ${x} ${-y})`
}

export type XY = readonly [number, number]

/**
 * The band within which an outline lies, as a path with y down: `points` are x, y and the error there, in mm along
 * a closed ring; no narrower than `least` on either side, so that it stays visible.
 */
export function bandPath(points: readonly (readonly [number, number, number])[], least: number): string {
  if (points.length < 3) return ''
  const sides: [string[], string[]] = [[], []]
  points.forEach(([x, y, error], k) => {
    const [ax, ay] = points[(k + points.length - 1) % points.length] ?? [x, y]
    const [bx, by] = points[(k + 1) % points.length] ?? [x, y]
    const length = Math.hypot(bx - ax, by - ay) || 1
    const half = Math.max(error, least)
    const [nx, ny] = [((by - ay) / length) * half, (-(bx - ax) / length) * half]
    sides[0].push(`${(x + nx).toFixed(2)} ${(-(y + ny)).toFixed(2)}`)
    sides[1].push(`${(x - nx).toFixed(2)} ${(-(y - ny)).toFixed(2)}`)
  })
  return `M${sides[0].join(' ')} Z M${sides[1].join(' ')} Z`
}

/** A drawn stroke without the points that lie within `apart` of the one before. */
export function thinned(points: readonly XY[], apart: number): XY[] {
  const kept: XY[] = []
  for (const p of points) {
    const last = kept.at(-1)
    if (!last || Math.hypot(p[0] - last[0], p[1] - last[1]) >= apart) kept.push(p)
  }
  return kept
}

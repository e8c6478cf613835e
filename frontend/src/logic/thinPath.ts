import simplify from 'simplify-js'

/**
 * A closed polyline's path ("Mx y x y … Z") without the points that lie nearer than `off` to the line through those left: they
 * can't be seen where `off` is a fraction of a pixel.
 */
export function thinPath(path: string, off: number): string {
  const numbers = (path.match(/[-\d.]+/g) ?? []).map(Number)
  const points = Array.from({ length: numbers.length >> 1 }, (_, k) => ({ x: numbers[2 * k]!, y: numbers[2 * k + 1]! }))
  return `M${simplify(points, off, true)
    .map(({ x, y }) => `${x} ${y}`)
    .join(' ')} Z`
}

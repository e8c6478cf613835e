/**
 * A closed polyline's path ("Mx y x y … Z") without the points that lie nearer than `step` to the one before them: what is left
 * out can't be seen where `step` is less than a pixel.
 */
export function thinPath(path: string, step: number): string {
  const numbers = (path.match(/[-\d.]+/g) ?? []).map(Number)
  const left: string[] = []
  let [x, y] = [NaN, NaN]
  for (let k = 0; k + 1 < numbers.length; k += 2) {
    const [px, py] = [numbers[k]!, numbers[k + 1]!]
    if (Math.hypot(px - x, py - y) < step) continue
    ;[x, y] = [px, py]
    left.push(`${px} ${py}`)
  }
  return `M${left.join(' ')} Z`
}

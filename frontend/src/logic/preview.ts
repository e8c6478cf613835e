type At = { x: number; y: number }

/**
 * How an edge lies while one of its ends is dragged, as an SVG transform: turned and scaled about the end that stays, so that
 * the dragged end `from` is where the hand has it, `to`. Points as the drawing has them. Only a preview: what becomes of the
 * edge is the server's to say.
 */
export function follow(fixed: At, from: At, to: At): string | undefined {
  const [vx, vy, wx, wy] = [from.x - fixed.x, from.y - fixed.y, to.x - fixed.x, to.y - fixed.y]
  const square = vx * vx + vy * vy
  if (square < 1e-9) return undefined
  const [a, b] = [(wx * vx + wy * vy) / square, (wy * vx - wx * vy) / square]
  return `matrix(${a} ${b} ${-b} ${a} ${fixed.x - a * fixed.x + b * fixed.y} ${fixed.y - b * fixed.x - a * fixed.y})`
}

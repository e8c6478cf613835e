/** The middle of a ring's box. */
export function middleOf(ring: readonly (readonly number[])[]): { x: number; y: number } {
  const xs = ring.map((p) => p[0] ?? 0)
  const ys = ring.map((p) => p[1] ?? 0)
  return { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 }
}

const STEPS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

/** A place in shares of a picture moved by an arrow key, kept inside it; null for another key. */
export function nudged([x, y]: readonly [number, number], key: string, by: number): [number, number] | null {
  const step = STEPS[key]
  const inside = (v: number) => Math.min(1, Math.max(0, v))
  return step ? [inside(x + step[0] * by), inside(y + step[1] * by)] : null
}

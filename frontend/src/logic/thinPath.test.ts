import { describe, expect, it } from 'vitest'
import { thinPath } from './thinPath'

const circle = (count: number) =>
  `M${Array.from({ length: count }, (_, k) => [Math.cos((2 * Math.PI * k) / count), Math.sin((2 * Math.PI * k) / count)])
    .map(([x, y]) => `${(200 * x!).toFixed(2)} ${(200 * y!).toFixed(2)}`)
    .join(' ')} Z`

describe('a trace thinned for the screen', () => {
  it('keeps to the line with far fewer points', () => {
    const points = (thinPath(circle(3600), 0.2).match(/[-\d.]+ [-\d.]+/g) ?? []).map((point) => point.split(' ').map(Number))
    expect(points.length).toBeLessThan(150)
    points.forEach(([x, y], k) => {
      const [nextX, nextY] = points[(k + 1) % points.length]!
      const middle = Math.hypot((x! + nextX!) / 2, (y! + nextY!) / 2)
      expect(200 - middle).toBeLessThan(0.22)
    })
  })

  it('is whole where all its points can be told', () => {
    expect(thinPath('M0 0 10 0 10 -10.5 Z', 0.5)).toBe('M0 0 10 0 10 -10.5 Z')
  })
})

import { describe, expect, it } from 'vitest'
import { thinPath } from './thinPath'

const circle = (count: number) =>
  `M${Array.from({ length: count }, (_, k) => [Math.cos((2 * Math.PI * k) / count), Math.sin((2 * Math.PI * k) / count)])
    .map(([x, y]) => `${(200 * x!).toFixed(2)} ${(200 * y!).toFixed(2)}`)
    .join(' ')} Z`

describe('a trace thinned for the screen', () => {
  it('keeps to the line with far fewer points', () => {
    const thin = thinPath(circle(3600), 1)
    const points = thin.match(/[-\d.]+ [-\d.]+/g) ?? []
    expect(points.length).toBeGreaterThan(600)
    expect(points.length).toBeLessThan(1300)
    for (const point of points) {
      const [x, y] = point.split(' ').map(Number)
      expect(Math.hypot(x!, y!)).toBeCloseTo(200, 1)
    }
  })

  it('is whole where its points are farther apart than can be seen', () => {
    expect(thinPath('M0 0 10 0 10 -10.5 Z', 0.5)).toBe('M0 0 10 0 10 -10.5 Z')
  })
})

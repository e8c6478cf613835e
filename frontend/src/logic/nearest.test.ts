import { describe, expect, it } from 'vitest'
import { nearestPath, nearestPlace } from './nearest'

/** A path from one place to another on the screen, as the browser would have it. */
const path = (x1: number, y1: number, x2: number, y2: number) =>
  ({
    getScreenCTM: () => ({}),
    getTotalLength: () => Math.hypot(x2 - x1, y2 - y1),
    getPointAtLength: (l: number) => {
      const share = l / Math.hypot(x2 - x1, y2 - y1)
      const p = { x: x1 + share * (x2 - x1), y: y1 + share * (y2 - y1) }
      return { ...p, matrixTransform: () => p }
    },
  }) as unknown as SVGGeometryElement

describe('what is pointed at', () => {
  const paths = [path(0, 0, 100, 0), path(0, 12, 100, 12)]

  it('is the nearest of paths that lie close together, whichever was hit', () => {
    expect(nearestPath(paths, { x: 50, y: 5 }, 30)).toBe(0)
    expect(nearestPath(paths, { x: 50, y: 7 }, 30)).toBe(1)
  })

  it('is nothing where nothing is near', () => {
    expect(nearestPath(paths, { x: 50, y: 60 }, 30)).toBe(-1)
    expect(nearestPath([], { x: 0, y: 0 }, 30)).toBe(-1)
    expect(nearestPlace([], { x: 0, y: 0 }, 30)).toBe(-1)
  })

  it('is the nearest place within reach', () => {
    const places = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
    ]
    expect(nearestPlace(places, { x: 6, y: 1 }, 8)).toBe(1)
    expect(nearestPlace(places, { x: 40, y: 1 }, 8)).toBe(-1)
  })
})

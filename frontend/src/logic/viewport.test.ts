import { describe, expect, it } from 'vitest'
import { barLength, fit, pan, toTable, zoom } from './viewport'

const size = { width: 900, height: 600 }

describe('the table seen through a window', () => {
  it('puts a box into the middle of the window, with more room at the foot', () => {
    const view = fit([100, -50, 400, 300], size)
    const middle = toTable(view, 450, 292)
    expect(middle.x).toBeCloseTo(300)
    expect(middle.y).toBeCloseTo(100)
    expect(view.scale * 400).toBeLessThanOrEqual(900 - 140 + 1e-9)
    // a name below the lowest panel, 32 px, is above the scale bar, 46 px
    expect(600 - (view.scale * 300) / 2 - 292).toBeGreaterThanOrEqual(32 + 46)
  })

  it('keeps the point under the finger while zooming, and undoes itself', () => {
    const view = fit([0, 0, 400, 300], size)
    const before = toTable(view, 123, 456)
    const closer = zoom(view, 3, 123, 456)
    expect(toTable(closer, 123, 456).x).toBeCloseTo(before.x)
    expect(toTable(closer, 123, 456).y).toBeCloseTo(before.y)
    expect(zoom(closer, 1 / 3, 123, 456).x).toBeCloseTo(view.x)
  })

  it('moves the table with the hand', () => {
    const view = fit([0, 0, 400, 300], size)
    const moved = pan(view, 30, -10)
    expect(toTable(moved, 130, 190)).toEqual({
      x: expect.closeTo(toTable(view, 100, 200).x),
      y: expect.closeTo(toTable(view, 100, 200).y),
    })
  })

  it('survives a window of no size and a box of no size', () => {
    const view = fit([5, 5, 0, 0], { width: 0, height: 0 })
    expect(Number.isFinite(view.x) && Number.isFinite(view.scale)).toBe(true)
  })

  it('draws a scale bar of a round length no longer than asked for', () => {
    for (const scale of [0.03, 0.4, 1.3, 7, 55]) {
      const length = barLength({ x: 0, y: 0, scale })
      expect(length * scale).toBeLessThanOrEqual(120)
      expect(length * scale).toBeGreaterThan(40)
    }
  })
})

import { describe, expect, it } from 'vitest'
import { besideSpot, labelBeside, labelPlace } from './labelPlace'

const SQUARE = [
  { x: 0, y: 0 },
  { x: 100, y: 0 },
  { x: 100, y: 100 },
  { x: 0, y: 100 },
]
const box = (x: number, y: number, w: number, h: number) => ({ low: { x, y }, high: { x: x + w, y: y + h } })

describe('where a label is written', () => {
  it('is its own place where nothing is drawn there', () => {
    expect(labelPlace(SQUARE, [], { width: 40, height: 20 }, { x: 50, y: 50 }, 2)).toEqual({ x: 50, y: 50 })
  })

  it('is the nearest that is clear of what is drawn, inside the outline', () => {
    const at = labelPlace(SQUARE, [box(40, 40, 20, 20)], { width: 40, height: 20 }, { x: 50, y: 50 }, 2)!
    expect(Math.abs(at.y - 50)).toBeGreaterThanOrEqual(22)
    expect(at.y).toBeGreaterThan(12)
    expect(at.y).toBeLessThan(88)
  })

  it('is not in the bay of a panel', () => {
    const bay = [...SQUARE, { x: 0, y: 90 }, { x: 90, y: 50 }, { x: 0, y: 10 }]
    expect(Math.abs(labelPlace(bay, [], { width: 40, height: 20 }, { x: 30, y: 50 }, 2)!.y - 50)).toBeGreaterThan(30)
    expect(labelPlace(bay, [], { width: 80, height: 20 }, { x: 30, y: 50 }, 2)).toBeNull()
  })

  it('is beside a panel that has no room, where no other lies', () => {
    const size = { width: 120, height: 20 }
    expect(labelPlace(SQUARE, [], size, { x: 50, y: 50 }, 2)).toBeNull()
    const below = labelBeside(SQUARE, [], [], size, 2)!
    // begun at the panel's left it would be out of sight
    expect(below.x).toBe(58)
    expect(below.y).toBeLessThan(-10)
    expect(labelBeside(SQUARE, [box(0, -60, 100, 50)], [], size, 2)?.y).toBeGreaterThan(110)
  })

  it('makes way for the labels that stand already, at the panel’s other end', () => {
    const size = { width: 40, height: 20 }
    const strips = [box(-200, 0, 195, 100), box(105, 0, 195, 100), box(0, 110, 100, 60)]
    expect(labelBeside(SQUARE, strips, [], size, 2)).toEqual({ x: 50, y: -16 })
    expect(labelBeside(SQUARE, strips, [box(55, -30, 20, 20)], size, 2)).toEqual({ x: 20, y: -16 })
    expect(labelBeside(SQUARE, strips, [box(20, -30, 60, 20)], size, 2)).toBeNull()
  })

  it('is left out where no side is clear', () => {
    const around = [box(-60, -60, 50, 220), box(110, -60, 50, 220), box(0, -60, 100, 50), box(0, 110, 100, 50)]
    expect(labelBeside(SQUARE, around, [], { width: 60, height: 20 }, 2)).toBeNull()
  })

  it('is not out of sight, right of all that lies on the table', () => {
    const size = { width: 50, height: 20 }
    const wide = labelBeside(SQUARE, [box(-300, 0, 200, 100)], [], size, 2)!
    expect(wide.x + size.width / 2).toBeLessThan(126)
    expect(wide.y).toBeLessThan(-10)
  })
})

describe('the words of a mark', () => {
  const size = { width: 30, height: 10 }
  it('stand inward of it, or where no line runs through them', () => {
    expect(besideSpot(SQUARE, [], size, { x: 50, y: 50 }, 5, -1)).toEqual({ x: 0, y: -10 })
    expect(besideSpot(SQUARE, [], size, { x: 50, y: 8 }, 5, -1)).toEqual({ x: 20, y: 0 })
    expect(besideSpot(SQUARE, [box(52, 0, 100, 40)], size, { x: 40, y: 3 }, 5, 1)).toEqual({ x: -15, y: 10 })
    expect(besideSpot(SQUARE, [], size, { x: 92, y: 50 }, 5, -1)).toEqual({ x: -20, y: 0 })
  })
  it('stand on the cloth, not beside it', () => {
    const taken = [box(10, -50, 200, 200)]
    expect(besideSpot(SQUARE, taken, size, { x: 0, y: 50 }, 5, 1)).toBeNull()
  })
  it('are left out where they have no room', () => {
    const narrow = [0, 12].flatMap((y) => (y ? [100, 0] : [0, 100]).map((x) => ({ x, y })))
    expect(besideSpot(narrow, [], { width: 120, height: 10 }, { x: 50, y: 6 }, 5, 1)).toBeNull()
    expect(besideSpot(SQUARE, [box(0, 0, 100, 48), box(0, 52, 100, 48)], size, { x: 50, y: 50 }, 5, 1)).toBeNull()
    const inSight = box(-10, 20, 110, 60)
    expect(besideSpot(SQUARE, [], size, { x: 92, y: 26 }, 5, -1, inSight)).toEqual({ x: -20, y: 0 })
    expect(besideSpot(SQUARE, [], size, { x: 2, y: 22 }, 5, -1, inSight)).toBeNull()
  })
})

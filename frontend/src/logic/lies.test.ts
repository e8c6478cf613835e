import { describe, expect, it } from 'vitest'
import { asSet, boxOnTable, laidOut, onTable, turnedAbout, type Lie } from './lies'

const BOX = [0, 0, 200, 100] as const
const HERE: Lie = { x: 10, y: 20, turn: 0, flipped: false }

describe('where panels lie', () => {
  it('turns to the left and flips before that', () => {
    expect(onTable({ ...HERE, turn: 90 }, { x: 5, y: 0 })).toMatchObject({ x: 10, y: 25 })
    expect(onTable({ ...HERE, flipped: true }, { x: 5, y: 3 })).toEqual({ x: 5, y: 23 })
    expect(boxOnTable({ ...HERE, turn: 90 }, BOX).map(Math.round)).toEqual([-90, 20, 100, 200])
  })
  it('lays those that nobody put anywhere in a row behind the others', () => {
    const [a, b, c] = laidOut([{ box: BOX }, { box: BOX, lies: { at: [100, 0] } }, { box: [5, 5, 50, 50] }])
    expect(b).toEqual({ x: 100, y: 0, turn: 0, flipped: false })
    expect(a!.x).toBe(360)
    expect(c).toMatchObject({ x: 360 + 260 - 5, y: -5 })
  })
  it('begins another row where one grows much longer than the table', () => {
    const lies = laidOut(Array.from({ length: 8 }, () => ({ box: BOX })))
    expect(new Set(lies.map((l) => l.y)).size).toBeGreaterThan(1)
    const boxes = lies.map((l) => boxOnTable(l, BOX))
    for (const [k, a] of boxes.entries())
      for (const b of boxes.slice(k + 1)) expect(Math.abs(a[0] - b[0]) >= 200 || Math.abs(a[1] - b[1]) >= 100).toBe(true)
    expect(Math.max(...boxes.map((b) => b[0] + b[2]))).toBeLessThan(1500)
  })
  it('turns about the middle, and four turns or two flips bring it back', () => {
    const once = turnedAbout(HERE, BOX, 90, false)
    expect(onTable(once, { x: 100, y: 50 }).x).toBeCloseTo(110)
    expect(onTable(once, { x: 100, y: 50 }).y).toBeCloseTo(70)
    let lie = HERE
    for (let k = 0; k < 4; k++) lie = turnedAbout(lie, BOX, 90, false)
    expect(lie.x).toBeCloseTo(HERE.x)
    expect(turnedAbout(turnedAbout(HERE, BOX, 0, true), BOX, 0, true)).toEqual(HERE)
  })
  it('leads a place on a drafted panel back to where it was set', () => {
    expect(asSet({ x: 10, y: 20 }, { a: 0.5, b: 0, c: 0, d: 2, x: 3, y: -1 })).toEqual({ x: 8, y: 39 })
    expect(asSet({ x: 10, y: 20 }, null)).toEqual({ x: 10, y: 20 })
  })
})

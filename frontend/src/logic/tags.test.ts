import { describe, expect, it } from 'vitest'
import { shareWithin } from './labelPlace'
import { clearest, placedTag, withRoom } from './tags'

const OWN = { width: 200, height: 50 }
const ROOM = { width: 1000, height: 700 }
const box = (x: number, y: number, width: number, height: number) => ({ low: { x, y }, high: { x: x + width, y: y + height } })

describe('a tag', () => {
  it('hangs where it is wanted', () => {
    expect(placedTag({ x: 500, y: 300 }, { x: 0, y: 1 }, 40, OWN, ROOM)).toEqual({ x: 500, y: 365 })
  })

  it.each([
    [
      { x: 500, y: 600 },
      { x: 0, y: 1 },
    ],
    [
      { x: 500, y: 20 },
      { x: 0, y: -1 },
    ],
    [
      { x: 30, y: 300 },
      { x: -1, y: 0 },
    ],
  ])('stays in the room and off its place: %o %o', (place, away) => {
    const at = placedTag(place, away, 40, OWN, ROOM)
    expect(at.x).toBeGreaterThanOrEqual(OWN.width / 2)
    expect(at.y).toBeGreaterThanOrEqual(OWN.height / 2)
    expect(at.y).toBeLessThanOrEqual(ROOM.height - OWN.height / 2)
    expect(Math.abs(at.x - place.x) >= OWN.width / 2 || Math.abs(at.y - place.y) >= OWN.height / 2).toBe(true)
  })

  it('keeps clear of the panel that lies next to its own', () => {
    const next = box(400, 350, 300, 300)
    const at = placedTag({ x: 500, y: 300 }, { x: 0, y: 1 }, 40, OWN, ROOM, [next])
    expect(at.y + 25 <= next.low.y || at.x + 100 <= next.low.x || at.x - 100 >= next.high.x).toBe(true)
  })

  it('hangs farther off where all about its place is covered', () => {
    const panel = box(400, 200, 200, 200)
    const at = placedTag({ x: 500, y: 300 }, { x: 0, y: -1 }, 26, OWN, ROOM, [panel, box(300, 130, 400, 70)])
    expect(at.x - 100 >= 600 || at.x + 100 <= 400 || at.y - 25 >= 400 || at.y + 25 <= 130).toBe(true)
  })

  it('hangs where its string runs over no other panel', () => {
    const [seat, wall, tab, other] = [box(64, 110, 253, 206), box(360, 160, 222, 168), box(627, 253, 120, 72), box(64, 455, 120, 72)]
    const own = box(218, 360, 230, 168)
    const place = { x: 334, y: 370 }
    const at = placedTag(place, { x: 0, y: -1 }, 26, { width: 320, height: 56 }, { width: 810, height: 652 }, [seat, wall, tab, other, own])
    expect([seat, wall, tab, other].map((panel) => shareWithin(place, at, panel))).toEqual([0, 0, 0, 0])
    expect(shareWithin(place, at, own) * Math.hypot(at.x - place.x, at.y - place.y)).toBeLessThan(140)
  })

  it('covers as little as can be where it has no room', () => {
    const all = [box(0, 0, 1000, 250), box(0, 320, 1000, 380)]
    const at = placedTag({ x: 500, y: 280 }, { x: 0, y: 1 }, 10, OWN, ROOM, all)
    expect(Math.abs(at.y - 280)).toBeLessThan(60)
  })
})

describe('letters', () => {
  const row = [box(0, 0, 30, 20), box(20, 5, 30, 20), box(40, 0, 30, 20), box(200, 0, 30, 20)]

  it('are left out where they would cover one that is there', () => {
    expect(withRoom(row)).toEqual([true, false, true, true])
  })

  it('give way to tags and to the chosen one', () => {
    expect(withRoom(row, [box(190, -5, 60, 28)])).toEqual([true, false, true, false])
    expect(withRoom(row, [box(10, -5, 60, 28)], 1)).toEqual([false, true, false, true])
  })
})

describe('a tag that may stand aside', () => {
  const size = { width: 40, height: 20 }
  const about = (x: number, y: number) => ({ low: { x: x - 6, y: y - 6 }, high: { x: x + 6, y: y + 6 } })
  const places = [0, 30, -30].map((x) => ({ x, y: 0 }))

  it('stays in the middle where nothing is drawn', () => {
    expect(clearest(places, size, [about(0, 40)])).toBe(0)
  })
  it('stands where it covers nothing, or else least', () => {
    expect(clearest(places, size, [about(14, 0)])).toBe(2)
    expect(clearest(places, size, [about(0, 0), about(-30, 0), about(50, 0)])).toBe(1)
  })
})

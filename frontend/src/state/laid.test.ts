import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'
import { aJob, aPanel } from '../testing/samples'
import { aServer, there } from '../testing/server'
import { useJob } from './job'
import { useLaidOut } from './laid'

vi.mock('../api/client', async () => (await import('../testing/server')).standIn)

const at = (x: number, y: number) => ({ at: [x, y] as [number, number], turn_deg: 0, flipped: false })
const arrow = (key: string, shiftKey = false) => new KeyboardEvent('keydown', { key, shiftKey })
const pointer = (type: string, x: number, y: number) => new MouseEvent(type, { clientX: x, clientY: y }) as PointerEvent

describe('panels on the table', () => {
  beforeEach(() => {
    there.server = aServer(aJob({ panels: [aPanel('lid', { lies: at(0, 0) }), aPanel('strip', { lies: at(300, 0) })] }))
  })
  const laidOut = async () => {
    const scope = effectScope()
    const table = ref({ px: 1, atPointer: (e: PointerEvent) => ({ x: e.clientX, y: -e.clientY }) })
    const made = scope.run(() => {
      const state = useJob(7)
      return { state, laid: useLaidOut(state, table as never) }
    })!
    await made.state.load()
    return { ...made, scope }
  }
  const moved = () => (there.server.changes().at(-1) as { panels: { panel: string; lies: object }[] }).panels

  it('are nudged, turned and flipped by keys once one is held', async () => {
    const { laid } = await laidOut()
    expect(laid.nudge(arrow('ArrowUp'))).toBe(false)
    expect(laid.turn(90)).toBe(false)
    laid.hold('strip')
    expect(laid.nudge(arrow('a'))).toBe(false)
    expect(laid.nudge(arrow('ArrowUp', true))).toBe(true)
    await vi.waitFor(() => expect(there.server.changes()).toHaveLength(1))
    expect(moved()).toEqual([{ panel: 'strip', lies: at(300, 50) }])
    laid.turn(90)
    await vi.waitFor(() => expect(there.server.changes()).toHaveLength(2))
    // about its middle, which stays where it was
    expect(moved()[0]!.lies).toMatchObject({ turn_deg: 90, flipped: false })
    laid.flip()
    await vi.waitFor(() => expect(there.server.changes()).toHaveLength(3))
    expect(moved()[0]!.lies).toMatchObject({ flipped: true })
  })

  it('are dragged, and their sides catch on the others’', async () => {
    const { laid } = await laidOut()
    laid.grab('strip', pointer('pointerdown', 350, -50))
    window.dispatchEvent(pointer('pointermove', 152, -48))
    // 102 would be left of the lid's right side by two
    expect(laid.lies.value.get('strip')).toMatchObject({ x: 100, y: 0 })
    window.dispatchEvent(pointer('pointerup', 152, -48))
    await vi.waitFor(() => expect(there.server.changes()).toHaveLength(1))
    expect(moved()).toEqual([{ panel: 'strip', lies: at(100, 0) }])
  })

  it('go on from where they were dropped, also before the server has kept that', async () => {
    const { laid } = await laidOut()
    for (const [from, to] of [
      [350, 152],
      [152, 153],
    ] as const) {
      laid.grab('strip', pointer('pointerdown', from, -50))
      window.dispatchEvent(pointer('pointermove', to, from === 350 ? -48 : -170))
      window.dispatchEvent(pointer('pointerup', to, -50))
    }
    expect(laid.lies.value.get('strip')).toMatchObject({ x: 100, y: 120 })
    await vi.waitFor(() => expect(there.server.changes()).toHaveLength(2))
    expect(moved()).toEqual([{ panel: 'strip', lies: at(100, 120) }])
  })

  it('stay where they are when only pointed at, or when the station is left in the middle', async () => {
    const { laid, scope } = await laidOut()
    laid.grab('lid', pointer('pointerdown', 50, -50))
    window.dispatchEvent(pointer('pointermove', 52, -50))
    window.dispatchEvent(pointer('pointerup', 52, -50))
    laid.grab('lid', pointer('pointerdown', 50, -50))
    window.dispatchEvent(pointer('pointermove', 90, -50))
    scope.stop()
    window.dispatchEvent(pointer('pointerup', 90, -50))
    expect(there.server.changes()).toEqual([])
  })

  it('are taken hold of together with Shift', async () => {
    const { laid } = await laidOut()
    laid.hold('lid')
    const more = new MouseEvent('pointerdown', { clientX: 350, shiftKey: true }) as PointerEvent
    laid.grab('strip', more)
    laid.nudge(arrow('ArrowRight'))
    await vi.waitFor(() => expect(there.server.changes()).toHaveLength(1))
    expect(moved().map((m) => m.panel)).toEqual(['lid', 'strip'])
  })

  it('lead a place on the table back into a panel that lies turned and flipped', async () => {
    there.server.job = aJob({ panels: [aPanel('lid', { lies: { at: [10, 20], turn_deg: 90, flipped: true } })] })
    const { laid } = await laidOut()
    const place = laid.inPanel('lid', { x: 3, y: 15 })
    expect([place.x, place.y]).toEqual([expect.closeTo(5), expect.closeTo(7)])
  })
})

import { describe, expect, it, vi } from 'vitest'
import { effectScope, shallowRef } from 'vue'
import type { JobState } from './job'
import type { ShapeWork } from './shape'
import { useTable } from './table'
import { aJob } from '../testing/samples'

const made = () => {
  const work = {
    moveCorner: vi.fn(),
    removeCorner: vi.fn(),
    measureBetween: vi.fn(),
    measureAlong: vi.fn(),
    hold: vi.fn(),
    addCorner: vi.fn(),
  }
  const state = { job: shallowRef(aJob()) } as unknown as JobState
  const table = effectScope().run(() => useTable(state, work as unknown as ShapeWork))!
  return { table, work }
}
const arrow = (key: string, shiftKey = false) => new KeyboardEvent('keydown', { key, shiftKey })

describe('what is chosen on an outline', () => {
  it('is nudged and removed by keys', () => {
    const { table, work } = made()
    expect([table.nudge(arrow('ArrowLeft')), table.removeChosen()]).toEqual([false, false])
    table.pickCorner(0, 2)
    table.nudge(arrow('ArrowLeft', true))
    table.nudge(arrow('ArrowUp'))
    expect(work.moveCorner.mock.calls).toEqual([
      [0, 2, 295, 200],
      [0, 2, 300, 200.5],
    ])
    table.removeChosen()
    expect(work.removeCorner).toHaveBeenCalledWith(0, 2)
    expect(table.chosen.value).toBeNull()
  })

  it('leads from edge to edge, and round again', () => {
    const { table } = made()
    table.pickEdge(0, 3, 0, 0)
    expect(table.edge.value?.name).toBe('DA')
    table.nudge(arrow('ArrowRight'))
    expect(table.edge.value?.name).toBe('AB')
    table.nudge(arrow('ArrowLeft'))
    expect(table.edge.value?.name).toBe('DA')
    expect(table.nudge(arrow('ArrowUp'))).toBe(false)
  })

  it('is measured from corner to corner, along an edge, or folded, by the tool in hand', async () => {
    const { table, work } = made()
    work.measureBetween.mockResolvedValue(true)
    table.take('tape')
    table.pickCorner(0, 0)
    await table.pickCorner(0, 2)
    expect(work.measureBetween).toHaveBeenCalledWith(0, 2)
    await table.pickEdge(0, 1, 0, 0)
    expect(work.measureAlong).toHaveBeenCalledWith(1)
    expect(table.chosen.value).toBeNull()
    table.take('fold')
    table.pickCorner(0, 2)
    table.pickCorner(0, 1)
    expect(table.folding.value).toEqual([2, 1])
    expect([table.leave(), table.leave(), table.leave()]).toEqual([true, true, false])
    expect([table.folding.value, table.chosen.value, table.task.value]).toEqual([null, null, 'true_up'])
  })

  it('is the corner nearest the pointer, whichever was pressed', () => {
    const { table } = made()
    const e = { currentTarget: { setPointerCapture: vi.fn() }, clientX: 0, clientY: 0 } as unknown as PointerEvent
    table.startDrag(e, 0, () => ({ x: 297, y: 6 }), 24)
    expect(table.chosen.value).toEqual({ ring: 0, corner: 1 })
  })

  it('asks for a second edge, or a place for a corner', () => {
    const { table, work } = made()
    table.pickEdge(0, 0, 0, 0)
    table.ask('parallel')
    table.pickEdge(0, 0, 0, 0)
    expect(work.hold).not.toHaveBeenCalled()
    table.ask('equal')
    table.pickEdge(0, 2, 0, 0)
    expect(work.hold).toHaveBeenCalledWith(0, 0, 2, 'equal')
    table.ask('corner')
    table.pickEdge(0, 1, 300, 90)
    expect(work.addCorner).toHaveBeenCalledWith(0, 300, 90)
    table.ask('corner')
    table.ask('corner')
    expect(table.asking.value).toBeNull()
  })
})

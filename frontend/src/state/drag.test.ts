import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'
import { useDrag } from './drag'

const dragging = () => {
  let drag!: ReturnType<typeof useDrag>
  const page = mount(defineComponent({ setup: () => ((drag = useDrag()), () => null) }))
  return { page, drag: (held: Parameters<typeof drag>[0]) => drag(held) }
}
const tell = (type: string) => window.dispatchEvent(new Event(type))

describe('dragging', () => {
  it('follows the pointer until it is let go', () => {
    const [{ drag, page }, held] = [dragging(), { move: vi.fn(), end: vi.fn() }]
    tell('pointermove')
    drag(held)
    tell('pointermove')
    tell('pointerup')
    tell('pointermove')
    expect([held.move.mock.calls.length, held.end.mock.calls.length]).toEqual([1, 1])
    page.unmount()
  })

  it('ends nothing once its component is gone', () => {
    const [{ drag, page }, held] = [dragging(), { move: vi.fn(), end: vi.fn() }]
    drag(held)
    page.unmount()
    tell('pointermove')
    tell('pointerup')
    expect([held.move.mock.calls.length, held.end.mock.calls.length]).toEqual([0, 0])
  })
})

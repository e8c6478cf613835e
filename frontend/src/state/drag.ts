import { useEventListener } from '@vueuse/core'
import { onScopeDispose } from 'vue'

/** What follows the pointer while something is dragged, and what is done once it is let go. */
export interface Drag {
  move: (e: PointerEvent) => void
  end: () => void
}

/** Dragging, one thing at a time; whatever is held is let go of without its end when the component goes. */
export function useDrag(): (drag: Drag) => void {
  let held: Drag | null = null
  const letGo = () => {
    const was = held
    held = null
    was?.end()
  }
  useEventListener(window, 'pointermove', (e: PointerEvent) => held?.move(e))
  useEventListener(window, ['pointerup', 'pointercancel'], letGo)
  onScopeDispose(() => (held = null))
  return (drag) => (held = drag)
}

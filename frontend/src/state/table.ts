import { computed, ref, shallowRef } from 'vue'
import type { Schemas } from '../api/client'
import type { JobState } from './job'
import type { ShapeWork } from './shape'
import { useDrag } from './drag'
import { nearestPlace } from '../logic/nearest'
import type { ShapeTask } from '../logic/tasks'

export interface Chosen {
  readonly ring: number
  readonly corner?: number
  readonly edge?: number
}
/** What the next thing pointed at is for. */
export type Asking = 'parallel' | 'equal' | 'corner' | null

const NUDGE: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }

/** What is chosen on the outline, what is being dragged, and what pointing at it does. */
export function useTable(state: JobState, work: ShapeWork) {
  const drag = useDrag()
  const shape = computed(() => state.job.value?.shape ?? null)
  const task = ref<ShapeTask>('true_up')
  const chosen = shallowRef<Chosen | null>(null)
  /** The tape measure that was taken last, by its id. */
  const measure = ref('')
  const asking = ref<Asking>(null)
  const folding = shallowRef<readonly [number, number] | null>(null)
  const dragged = shallowRef<{ ring: number; corner: number; x: number; y: number } | null>(null)

  /** The outline as it would be at a tolerance that is being tried. */
  const tried = shallowRef<Schemas['RingView'][] | null>(null)
  const ring = computed(() => (chosen.value ? (shape.value?.rings[chosen.value.ring] ?? null) : null))
  const edge = computed(() => (chosen.value?.edge === undefined ? null : (ring.value?.edges[chosen.value.edge] ?? null)))
  const corner = computed(() => (chosen.value?.corner === undefined ? null : (ring.value?.joints[chosen.value.corner] ?? null)))
  const wanted = computed(() => (chosen.value?.edge === undefined ? null : (ring.value?.joints[chosen.value.edge]?.next_kind ?? null)))

  function ask(what: Asking) {
    asking.value = asking.value === what ? null : what
  }
  function drop() {
    chosen.value = folding.value = asking.value = null
    measure.value = ''
  }
  function take(now: ShapeTask) {
    drop()
    task.value = now
  }
  /** From what is chosen to the piece, from a tool to trueing up; false where there is nothing to leave. */
  function leave(): boolean {
    if (chosen.value || folding.value || asking.value || measure.value) drop()
    else if (task.value !== 'true_up') task.value = 'true_up'
    else return false
    return true
  }
  /** A measure is added to the tape list, and is the chosen one then. */
  async function keepMeasure(how: Promise<boolean>) {
    chosen.value = null
    if (await how) measure.value = shape.value?.tape.at(-1)?.id ?? ''
  }
  function pickCorner(at: number, k: number) {
    const from = chosen.value?.ring === 0 ? chosen.value.corner : undefined
    measure.value = ''
    if (at === 0 && from !== undefined && from !== k && task.value === 'tape') return keepMeasure(work.measureBetween(from, k))
    if (at === 0 && from !== undefined && from !== k && task.value === 'fold') folding.value = [from, k]
    chosen.value = { ring: at, corner: k }
  }
  function pickEdge(at: number, k: number, x: number, y: number) {
    if (asking.value === 'corner') {
      asking.value = null
      work.addCorner(at, x, y)
      return
    }
    measure.value = ''
    if (task.value === 'tape' && at === 0) return keepMeasure(work.measureAlong(k))
    const c = chosen.value
    if ((asking.value === 'parallel' || asking.value === 'equal') && c?.edge !== undefined && c.ring === at && c.edge !== k) {
      work.hold(at, c.edge, k, asking.value)
      asking.value = null
      return
    }
    chosen.value = { ring: at, edge: k }
  }
  async function removeCorner() {
    const c = chosen.value
    if (c?.corner === undefined) return
    chosen.value = null
    await work.removeCorner(c.ring, c.corner)
  }
  /** Of corners that lie close together the nearest one is meant: its ring and its index. */
  function nearestCorner(p: { x: number; y: number }, near: number): readonly [number, number] | null {
    const all = (shape.value?.rings ?? []).flatMap((ring, r) =>
      ring.joints.map((j, k) => ({ x: j.point[0], y: j.point[1], which: [r, k] as const })),
    )
    return all[nearestPlace(all, p, near)]?.which ?? null
  }
  /** Drag a corner: nothing waits for the server until it is let go. */
  function startDrag(e: PointerEvent, pressed: number, place: (e: PointerEvent) => { x: number; y: number }, near: number) {
    const [at, k] = nearestCorner(place(e), near) ?? [pressed, 0]
    pickCorner(at, k)
    if (task.value !== 'true_up') return
    ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
    const from = { x: e.clientX, y: e.clientY }
    drag({
      move: (p) => {
        if (!dragged.value && Math.hypot(p.clientX - from.x, p.clientY - from.y) < 5) return
        dragged.value = { ring: at, corner: k, ...place(p) }
      },
      end: async () => {
        const to = dragged.value
        if (to) await work.moveCorner(at, k, to.x, to.y)
        dragged.value = null
      },
    })
  }
  /** Remove the chosen corner; false where none is chosen. */
  const removeChosen = () => (chosen.value?.corner === undefined ? false : removeCorner())
  /** Arrow keys nudge the chosen corner, or lead from edge to edge; false where nothing is chosen. */
  function nudge(e: KeyboardEvent): unknown {
    const c = chosen.value
    if (!c || !shape.value) return false
    const way = NUDGE[e.key]
    if (way && corner.value && c.corner !== undefined) {
      const by = e.shiftKey ? 5 : 0.5
      return work.moveCorner(c.ring, c.corner, corner.value.point[0] + way[0] * by, corner.value.point[1] + way[1] * by)
    }
    if (c.edge !== undefined && (e.key === 'ArrowLeft' || e.key === 'ArrowRight')) {
      const count = ring.value?.edges.length ?? 1
      chosen.value = { ring: c.ring, edge: (c.edge + (e.key === 'ArrowRight' ? 1 : count - 1)) % count }
      return true
    }
    return false
  }
  return {
    shape,
    tried,
    task,
    take,
    leave,
    measure,
    chosen,
    asking,
    folding,
    dragged,
    edge,
    corner,
    wanted,
    ask,
    drop,
    pickCorner,
    pickEdge,
    removeCorner,
    removeChosen,
    startDrag,
    nudge,
  }
}

export type Table = ReturnType<typeof useTable>

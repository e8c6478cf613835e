import { ask, type Change, type Schemas } from '../api/client'
import type { JobState } from './job'
import { say } from './notice'

type Step = Schemas['TakeStep']['step']

/** What can be done with the piece on the table; each is one change that can be undone. */
export function useShape(state: JobState) {
  const { job } = state
  const step = (taken: Step) => state.do({ kind: 'take_step', step: taken })
  /** Where a corner stands; a step names it so, to find it when an earlier step is switched off. */
  const corner = (ring: number, index: number): [number, number] => job.value?.shape?.rings[ring]?.joints[index]?.point ?? [0, 0]
  /** Do it, and read out what came of it. */
  async function told(change: Change) {
    const kept = await state.do(change)
    if (kept) say(`${job.value?.last_change}.`)
    return kept
  }
  const onFinding = (photo_id: number, index: number) => ({ params: { path: { photo_id, index } }, headers: state.headers() })
  return {
    setKind: (ring: number, index: number, choice: Schemas['SetKind']['choice']) =>
      step({ kind: 'edge kind', ring, edge: corner(ring, index), choice }),
    addCorner: (ring: number, x: number, y: number) => step({ kind: 'add corner', ring, at: [x, y] }),
    removeCorner: (ring: number, index: number) => step({ kind: 'remove corner', ring, corner: corner(ring, index) }),
    moveCorner: (ring: number, index: number, x: number, y: number) =>
      step({ kind: 'move corner', ring, corner: corner(ring, index), to: [x, y] }),
    setSmooth: (ring: number, index: number, smooth: boolean) =>
      step({ kind: 'corner or smooth', ring, corner: corner(ring, index), smooth }),
    square: (ring: number, index: number) => step({ kind: 'square', ring, corner: corner(ring, index) }),
    hold: (ring: number, edge: number, to: number, alike: Schemas['HoldEdges']['alike']) =>
      step({ kind: 'hold edges', ring, edge: corner(ring, edge), to: corner(ring, to), alike }),
    fold: (first: number, second: number, keep: Schemas['FoldOver']['keep']) =>
      told({ kind: 'take_step', step: { kind: 'fold', first: corner(0, first), second: corner(0, second), keep } }),
    smooth: (by_mm: string) => step({ kind: 'smooth', by_mm }),
    setTolerance: (tolerance_mm: string) => step({ kind: 'find corners', tolerance_mm }),
    divide: (joint: number, parts: Schemas['DivideOutline']['parts']) => step({ kind: 'divide', start: corner(0, joint), parts }),
    turnOver: () => step({ kind: 'turn over' }),
    measureBetween: (first: number, second: number) => state.do({ kind: 'add_measure', between: [first, second] }),
    measureAlong: (edge: number) => state.do({ kind: 'add_measure', edge }),
    scale: (per_axis: boolean) => told({ kind: 'scale_to_tape', per_axis }),
    bend: () => told({ kind: 'bend_to_tape' }),
    oldCover: (edges: Schemas['OldEdge'][], rest: string) => state.keep({ kind: 'old_cover', edges, rest }),
    standOff: (by: string, line: Schemas['MoveLine']['line']) => state.keep({ kind: 'move_line', by, line }),
    switchStep: (at: number, counts: boolean) => state.do({ kind: 'switch_step', step: at, counts }),
    newPiece: () => state.do({ kind: 'new_piece' }),
    openPiece: (piece: string) => state.do({ kind: 'open_piece', piece }),
    namePiece: (piece: string, name: string) => state.do({ kind: 'name_piece', piece, name }),
    removePiece: (piece: string) => state.do({ kind: 'remove_piece', piece }),
    tryTolerance: (tolerance_mm: number) =>
      ask('get', '/api/jobs/{job_id}/shape/fit', { params: { path: state.path, query: { tolerance_mm } } }),
    walk: (photo_id: number, index: number, body: Schemas['WalkIn']) =>
      ask('post', '/api/photos/{photo_id}/outlines/{index}/walk', { params: { path: { photo_id, index } }, body }),
    takeWalk: (photo: number, index: number, body: Schemas['WalkIn']) =>
      state.send(() => ask('post', '/api/photos/{photo_id}/outlines/{index}/walked', { ...onFinding(photo, index), body })),
    paint: (photo: number, index: number, strokes: Schemas['StrokeIn'][]) =>
      state.send(() => ask('post', '/api/photos/{photo_id}/outlines/{index}/strokes', { ...onFinding(photo, index), body: { strokes } })),
    confirmEdge: (photo: number, index: number, stretches: number[]) =>
      state.send(() => ask('post', '/api/photos/{photo_id}/outlines/{index}/right', { ...onFinding(photo, index), body: { stretches } })),
  }
}

export type ShapeWork = ReturnType<typeof useShape>

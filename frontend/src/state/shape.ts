import { answered, client, type Schemas } from '../api/client'
import type { JobState } from './job'
import { say } from './notice'

/** What can be done with the piece on the table; each is one step that can be undone. */
export function useShape(state: JobState) {
  const { change, job } = state
  const at = <P extends object>(more: P) => ({ params: { path: { ...state.path, ...more } }, headers: state.headers() })
  const here = () => ({ params: { path: state.path }, headers: state.headers() })
  /** Do it, and read out what came of it. */
  async function told(done: Promise<boolean>) {
    const kept = await done
    if (kept) say(`${job.value?.last_change}.`)
    return kept
  }
  return {
    setKind: (ring: number, index: number, kind: Schemas['KindIn']['kind']) =>
      change(() => answered(client.PUT('/api/jobs/{job_id}/shape/{ring}/edges/{index}', { ...at({ ring, index }), body: { kind } }))),
    addCorner: (ring: number, x: number, y: number) => change(() => answered(client.POST('/api/jobs/{job_id}/shape/{ring}/joints', { ...at({ ring }), body: { x, y } }))),
    removeCorner: (ring: number, index: number) => change(() => answered(client.DELETE('/api/jobs/{job_id}/shape/{ring}/joints/{index}', at({ ring, index })))),
    moveCorner: (ring: number, index: number, x: number, y: number) =>
      change(() => answered(client.PUT('/api/jobs/{job_id}/shape/{ring}/joints/{index}', { ...at({ ring, index }), body: { x, y } }))),
    setSmooth: (ring: number, index: number, smooth: boolean) =>
      change(() => answered(client.PUT('/api/jobs/{job_id}/shape/{ring}/joints/{index}/smooth', { ...at({ ring, index }), body: { smooth } }))),
    square: (ring: number, index: number) => change(() => answered(client.POST('/api/jobs/{job_id}/shape/{ring}/joints/{index}/square', at({ ring, index })))),
    hold: (ring: number, body: Schemas['PairIn']) => change(() => answered(client.POST('/api/jobs/{job_id}/shape/{ring}/hold', { ...at({ ring }), body }))),
    fold: (body: Schemas['FoldIn']) => told(change(() => answered(client.POST('/api/jobs/{job_id}/fold', { ...here(), body })))),
    measure: (body: Schemas['MeasureIn']) => change(() => answered(client.POST('/api/jobs/{job_id}/tape', { ...here(), body }))),
    scale: (per_axis: boolean) => told(change(() => answered(client.POST('/api/jobs/{job_id}/scale-to-tape', { ...here(), body: { per_axis } })))),
    bend: () => told(change(() => answered(client.POST('/api/jobs/{job_id}/bend-to-tape', here())))),
    smooth: (text: string) => change(() => answered(client.POST('/api/jobs/{job_id}/smooth', { ...here(), body: { text } }))),
    setTolerance: (text: string) => change(() => answered(client.PUT('/api/jobs/{job_id}/shape/tolerance', { ...here(), body: { text } }))),
    tryTolerance: (tolerance_mm: number) =>
      answered<Schemas['RingView'][]>(client.GET('/api/jobs/{job_id}/shape/fit', { params: { path: state.path, query: { tolerance_mm } } })),
    divide: (joint: number, parts: Schemas['DivideIn']['parts']) => change(() => answered(client.POST('/api/jobs/{job_id}/divide', { ...here(), body: { joint, parts } }))),
    turnOver: () => change(() => answered(client.POST('/api/jobs/{job_id}/turn-over', here()))),
    oldCover: (body: Schemas['OldCoverIn']) => change(() => answered(client.POST('/api/jobs/{job_id}/old-cover', { ...here(), body }))),
    standOff: (by: string, line: Schemas['StandOffIn']['line']) => change(() => answered(client.POST('/api/jobs/{job_id}/stand-off', { ...here(), body: { by, line } }))),
    switchStep: (index: number, on: boolean) => change(() => answered(client.PUT('/api/jobs/{job_id}/steps/{index}', { ...at({ index }), body: { on } }))),
    newPiece: () => change(() => answered(client.POST('/api/jobs/{job_id}/pieces', here()))),
    openPiece: (index: number) => change(() => answered(client.POST('/api/jobs/{job_id}/pieces/{index}/open', at({ index })))),
    namePiece: (index: number, name: string) => change(() => answered(client.PUT('/api/jobs/{job_id}/pieces/{index}', { ...at({ index }), body: { name } }))),
    removePiece: (index: number) => change(() => answered(client.DELETE('/api/jobs/{job_id}/pieces/{index}', at({ index })))),
    paint: (photo_id: number, index: number, strokes: Schemas['StrokeIn'][]) =>
      change(() => answered(client.POST('/api/photos/{photo_id}/found/{index}/strokes', { params: { path: { photo_id, index } }, headers: state.headers(), body: { strokes } }))),
    walk: (photo_id: number, index: number, body: Schemas['WalkIn']) =>
      answered<Schemas['Walk']>(client.POST('/api/photos/{photo_id}/found/{index}/walk', { params: { path: { photo_id, index } }, body })),
    takeWalk: (photo_id: number, index: number, body: Schemas['WalkIn']) =>
      change(() => answered(client.POST('/api/photos/{photo_id}/found/{index}/walked', { params: { path: { photo_id, index } }, headers: state.headers(), body }))),
    confirmEdge: (photo_id: number, index: number, stretches: number[]) =>
      change(() => answered(client.POST('/api/photos/{photo_id}/found/{index}/right', { params: { path: { photo_id, index } }, headers: state.headers(), body: { stretches } }))),
  }
}

export type ShapeWork = ReturnType<typeof useShape>

import { computed, ref, shallowRef } from 'vue'
import type { Schemas } from '../api/client'
import { thinned, type XY } from '../logic/band'
import { sayWrong } from './notice'
import type { ShapeWork } from './shape'

export type Brush = 'piece' | 'table'

/** Helping by hand on a photo: strokes for piece and table, or a walk along its edge. Nothing is kept until it is taken. */
export function useHand(work: ShapeWork, where: () => { photo: number; outline: number } | null) {
  const mode = ref<'paint' | 'walk' | null>(null)
  const brush = ref<Brush>('piece')
  const width = ref(8)
  const strokes = shallowRef<Schemas['StrokeIn'][]>([])
  const points = shallowRef<XY[]>([])
  const closed = ref(false)
  const way = shallowRef<XY[]>([])
  /** The stretches of the way along which no edge is seen. */
  const unseen = shallowRef<XY[][]>([])
  const busy = ref(false)
  let asked = 0

  const started = computed(() => strokes.value.length > 0 || points.value.length > 0)

  function clear() {
    strokes.value = []
    points.value = []
    way.value = unseen.value = []
    closed.value = false
  }
  function begin(what: 'paint' | 'walk') {
    clear()
    mode.value = what
  }
  function stop() {
    clear()
    mode.value = null
  }
  function draw(phase: 'start' | 'move' | 'end' | 'cancel', at: { x: number; y: number }) {
    if (mode.value !== 'paint') return
    const last = strokes.value.at(-1)
    if (phase === 'start')
      strokes.value = [...strokes.value, { points: [[at.x, at.y]], width: width.value, piece: brush.value === 'piece' }]
    else if (phase === 'move' && last) strokes.value = [...strokes.value.slice(0, -1), { ...last, points: [...last.points, [at.x, at.y]] }]
    else if (phase === 'cancel') strokes.value = strokes.value.slice(0, -1)
  }
  async function step(at: { x: number; y: number }) {
    if (mode.value !== 'walk' || closed.value) return
    points.value = [...points.value, [at.x, at.y]]
    await follow()
  }
  async function back() {
    if (mode.value === 'paint') strokes.value = strokes.value.slice(0, -1)
    else if (closed.value) closed.value = false
    else points.value = points.value.slice(0, -1)
    if (mode.value === 'walk') await follow()
  }
  async function close() {
    closed.value = true
    await follow()
  }
  /** Ask for the way through the points; an answer that was overtaken is dropped. */
  async function follow() {
    const to = where()
    const mine = ++asked
    if (!to || points.value.length < 2) {
      way.value = unseen.value = []
      return
    }
    busy.value = true
    try {
      const answer = await work.walk(to.photo, to.outline, { points: points.value as [number, number][], closed: closed.value })
      if (mine !== asked) return
      way.value = answer.way as XY[]
      unseen.value = answer.unseen as XY[][]
    } catch (e) {
      if (mine !== asked) return
      sayWrong(e)
      points.value = points.value.slice(0, -1)
      closed.value = false
    } finally {
      if (mine === asked) busy.value = false
    }
  }
  async function take() {
    const to = where()
    if (!to || busy.value) return
    busy.value = true
    const sent = strokes.value.map((s) => ({ ...s, points: thinned(s.points as XY[], 0.5) as [number, number][] }))
    const done =
      mode.value === 'paint'
        ? await work.paint(to.photo, to.outline, sent)
        : await work.takeWalk(to.photo, to.outline, { points: points.value as [number, number][], closed: closed.value })
    busy.value = false
    if (done) clear()
    if (done && mode.value === 'walk') mode.value = null
  }
  return { mode, brush, width, strokes, points, closed, way, unseen, busy, started, begin, stop, draw, step, back, close, take }
}

export type Hand = ReturnType<typeof useHand>

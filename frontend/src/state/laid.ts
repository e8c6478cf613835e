import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { ask } from '../api/client'
import { carried, inverse } from '../logic/transform'
import { useDrag } from './drag'
import { mapOf, boxOnTable, laidOut, onTable, transformOf, turnedAbout, type Lie, type TableBox } from '../logic/lies'
import type { JobState } from './job'
import { sayWrong } from './notice'

type At = { x: number; y: number }
type Box = readonly [number, number, number, number]
type Table = { atPointer: (e: PointerEvent) => At; px: number }
const NUDGE_MM = 5
const CATCH_PX = 12
const SNAP_PX = 9

/** How the panels lie on the table: moved, turned and flipped by hand or keys, and measured between. */
export function useLaidOut(state: JobState, table: Ref<Table | null>) {
  const drag = useDrag()
  const { job } = state
  const panels = computed(() => job.value?.panels ?? [])
  // where each lies, by its id
  const kept = computed(() => new Map(laidOut(panels.value).map((lie, k) => [panels.value[k]!.id, lie])))
  const moving = shallowRef<Map<string, Lie> | null>(null)
  const lies = computed(() => new Map([...kept.value].map(([id, lie]) => [id, moving.value?.get(id) ?? lie])))
  // what is only shifted by the hand is drawn where it lay, and moves as a whole
  const drawnLies = computed(() => {
    const onlyShifted = (lie: Lie, now: Lie) => now.turn === lie.turn && now.flipped === lie.flipped
    return new Map([...lies.value].map(([id, now]) => [id, onlyShifted(kept.value.get(id)!, now) ? kept.value.get(id)! : now]))
  })
  /** How far the hand has shifted a panel from where it is drawn, y up; null where it hasn't. */
  function shiftOf(id: string): At | null {
    const [now, drawn] = [lies.value.get(id), drawnLies.value.get(id)]
    return now && drawn && now !== drawn ? { x: now.x - drawn.x, y: now.y - drawn.y } : null
  }
  const held = ref<string[]>([])
  const from = shallowRef<At | null>(null)
  const measured = shallowRef<{ a: At; b: At; text: string } | null>(null)
  let pending = 0
  let inHand = false
  const settle = () => pending || inHand || (moving.value = null)
  watch(panels, settle)

  const boxOf = (id: string): Box => panels.value.find((p) => p.id === id)?.box ?? [0, 0, 0, 0]
  /** The box that is drawn round a held panel, where the panel is drawn; null round one that isn't held. */
  const frameOf = (id: string) => (held.value.includes(id) ? boxOnTable(drawnLies.value.get(id)!, boxOf(id)) : null)
  // what follows from a panel lies in a row under the panels
  const companions = computed(() => {
    const boxes = [...kept.value].map(([id, lie]) => boxOnTable(lie, boxOf(id)))
    const foot = Math.min(0, ...boxes.map((b) => b[1])) - 60
    let x = Math.min(0, ...boxes.map((b) => b[0]))
    const all = panels.value.flatMap((p) => p.companions)
    return all.map((panel) => {
      const [bx, by, w, h] = panel.box
      const lie: Lie = { x: x - bx, y: foot - h - by, turn: 0, flipped: false }
      x += w + 60
      return { panel, lie }
    })
  })
  const box = computed<[number, number, number, number]>(() => {
    const boxes = [
      ...[...kept.value].map(([id, lie]) => boxOnTable(lie, boxOf(id))),
      ...companions.value.map((c) => boxOnTable(c.lie, c.panel.box)),
    ]
    if (!boxes.length) return [0, 0, 100, 100]
    const low = [Math.min(...boxes.map((b) => b[0])), Math.min(...boxes.map((b) => b[1]))] as const
    const high = [Math.max(...boxes.map((b) => b[0] + b[2])), Math.max(...boxes.map((b) => b[1] + b[3]))] as const
    return [low[0], low[1], Math.max(high[0] - low[0], 100), Math.max(high[1] - low[1], 100)]
  })

  /** The boxes that the panels and what follows from them fill on the table; of a panel that is moved, where it lay. */
  const boxes = computed<TableBox[]>(() => {
    const filled = (of: string, [x, y, w, h]: Box) => ({ of, low: { x, y }, high: { x: x + w, y: y + h } })
    return [
      ...panels.value.map((p) => filled(p.name, boxOnTable(kept.value.get(p.id)!, p.box))),
      ...companions.value.map((c) => filled(c.panel.name, boxOnTable(c.lie, c.panel.box))),
    ]
  })

  async function keep(made: Map<string, Lie>) {
    // until the last of several quick moves is kept, what is shown is what was asked for
    pending++
    moving.value = new Map([...(moving.value ?? []), ...made])
    const moved = [...made].map(([panel, l]) => ({
      panel,
      lies: { at: [l.x, l.y] as [number, number], turn_deg: l.turn, flipped: l.flipped },
    }))
    await state.do({ kind: 'lay_out', panels: moved })
    pending--
    settle()
  }
  const shifted = (dx: number, dy: number, at = lies.value) =>
    new Map(held.value.map((id) => [id, { ...at.get(id)!, x: at.get(id)!.x + dx, y: at.get(id)!.y + dy }]))

  /** Take hold of a panel (with Shift one more) and drag what is held; its sides catch on the others' sides. */
  function grab(id: string, e: PointerEvent) {
    if (e.shiftKey) held.value = held.value.includes(id) ? held.value.filter((h) => h !== id) : [...held.value, id]
    else if (!held.value.includes(id)) held.value = [id]
    const start = table.value?.atPointer(e)
    if (!start || !held.value.length) return
    // a move before it may not be kept yet
    const before = lies.value
    let shift: Map<string, Lie> | null = null
    inHand = false
    const move = (ev: PointerEvent) => {
      const now = table.value?.atPointer(ev)
      if (!now) return
      const px = table.value?.px ?? 1
      if (!shift && Math.hypot(now.x - start.x, now.y - start.y) < 4 * px) return
      inHand = true
      const [sx, sy] = caught(now.x - start.x, now.y - start.y, SNAP_PX * px, before)
      shift = shifted(sx, sy, before)
      moving.value = new Map([...(moving.value ?? []), ...shift])
    }
    drag({
      move,
      end: () => {
        inHand = false
        if (shift) keep(shift)
      },
    })
  }

  /** Hold a panel, to be moved by keys. */
  const hold = (id: string) => (held.value = id ? [id] : [])

  function caught(dx: number, dy: number, within: number, at: ReadonlyMap<string, Lie>): [number, number] {
    const box = (id: string) => boxOnTable(at.get(id)!, boxOf(id))
    const others = [...at.keys()].filter((id) => !held.value.includes(id)).map(box)
    const own = held.value.map(box)
    const nearest = (axis: 0 | 1, by: number) => {
      const stops = others.flatMap((b) => [b[axis], b[axis] + b[axis + 2]!])
      const sides = own.flatMap((b) => [b[axis] + by, b[axis] + b[axis + 2]! + by])
      const gaps = sides.flatMap((s) => stops.map((t) => t - s)).filter((g) => Math.abs(g) < within)
      return gaps.length ? by + gaps.reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a)) : by
    }
    return [nearest(0, dx), nearest(1, dy)]
  }

  /** Nudge what is held by an arrow key; false where nothing is. */
  function nudge(e: KeyboardEvent): boolean {
    if (!held.value.length) return false
    const far = NUDGE_MM * (e.shiftKey ? 10 : 1)
    const steps: Record<string, [number, number]> = { ArrowRight: [far, 0], ArrowLeft: [-far, 0], ArrowUp: [0, far], ArrowDown: [0, -far] }
    const by = steps[e.key]
    if (by) keep(shifted(...by))
    return !!by
  }
  /** Turn what is held to the left; false where nothing is. */
  const turn = (degrees: number) => turned(degrees, false)
  const flip = () => turned(0, true)
  function turned(degrees: number, flipped: boolean): boolean {
    if (held.value.length) keep(new Map(held.value.map((h) => [h, turnedAbout(lies.value.get(h)!, boxOf(h), degrees, flipped)])))
    return held.value.length > 0
  }

  /** The next point to measure to, or from; the third begins anew. */
  async function measureTo(p: At) {
    const at = nearby(p)
    if (!from.value) {
      measured.value = null
      from.value = at
      return
    }
    const a = from.value
    from.value = null
    try {
      const said = await ask('get', '/api/jobs/{job_id}/between', {
        params: { path: state.path, query: { ax: a.x, ay: a.y, bx: at.x, by: at.y } },
      })
      measured.value = { a, b: at, text: `${said.length} · ${said.across} across, ${said.up} up` }
    } catch (e) {
      sayWrong(e)
    }
  }

  function nearby(p: At): At {
    const within = CATCH_PX * (table.value?.px ?? 1)
    let best: At | null = null
    panels.value.forEach((panel) => {
      const spots = [...panel.rings.flat().flatMap((e) => [e.start, e.middle]), ...(panel.draft?.corners ?? [])]
      for (const s of spots) {
        const q = onTable(lies.value.get(panel.id)!, { x: s[0] ?? 0, y: s[1] ?? 0 })
        if (Math.hypot(q.x - p.x, q.y - p.y) < Math.min(within, best ? Math.hypot(best.x - p.x, best.y - p.y) : Infinity)) best = q
      }
    })
    return best ?? p
  }

  /** A point of the table in a panel's own frame. */
  function inPanel(id: string, p: At): At {
    return carried(inverse(mapOf(lies.value.get(id)!)), p)
  }

  function clear() {
    held.value = []
    from.value = measured.value = null
  }
  return {
    lies,
    drawnLies,
    shiftOf,
    frameOf,
    companions,
    boxes,
    box,
    held,
    from,
    measured,
    grab,
    hold,
    nudge,
    turn,
    flip,
    measureTo,
    inPanel,
    clear,
    transform: (id: string) => transformOf(lies.value.get(id)!),
  }
}
export type LaidOut = ReturnType<typeof useLaidOut>

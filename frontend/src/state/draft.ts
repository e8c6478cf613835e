import { computed, ref, shallowRef, watch } from 'vue'
import type { Panel, Schemas, SeamEdge } from '../api/client'
import { chosenAfter, ownEdges, step } from '../logic/steps'
import { kindsOf, ON_EDGES, type Task } from '../logic/tasks'
import type { JobState } from './job'

/** What the slip is about: the one thing that is chosen, or what is done. */
export type Subject = 'table' | 'cover' | 'panel' | 'edges' | 'corner' | Exclude<Task, 'allow'>

/** What is done at the Draft station, and what is chosen there: a panel, edges of it, a corner, a feature, a join. */
export function useDraft(state: JobState) {
  const panels = computed(() => state.job.value?.panels ?? [])
  const joins = computed(() => state.job.value?.joins ?? [])
  const task = ref<Task>('allow')
  const at = ref('')
  const chosen = shallowRef<string[]>([])
  /** The edge at whose end the chosen corner is. */
  const corner = ref('')
  const feature = ref('')
  const join = ref('')
  const cover = ref('')
  /** The edges of the first side of a join that is being made. */
  const oneSide = shallowRef<string[]>([])

  const panel = computed<Panel | null>(() => panels.value.find((p) => p.id === at.value) ?? null)
  const all = computed(() => (panel.value ? ownEdges(panel.value.rings) : []))
  /** The chosen edges as they are drawn, each by the part that carries its name. */
  const edges = computed<SeamEdge[]>(() => chosen.value.flatMap((id) => drawnEdge(panel.value, id) ?? []))
  const chosenFeature = computed(() => panel.value?.features.find((f) => f.id === feature.value) ?? null)
  const chosenJoin = computed<Schemas['JoinView'] | null>(() => joins.value.find((j) => j.id === join.value) ?? null)
  const subject = computed<Subject>(() => {
    if (task.value !== 'allow') return task.value
    if (!panel.value) return cover.value ? 'cover' : 'table'
    return corner.value ? 'corner' : chosen.value.length ? 'edges' : 'panel'
  })

  function drop() {
    chosen.value = []
    corner.value = feature.value = join.value = ''
  }
  function take(now: Task) {
    const edgesStay = ON_EDGES.includes(task.value) && ON_EDGES.includes(now)
    const were = chosen.value
    drop()
    oneSide.value = []
    cover.value = ''
    if (edgesStay) chosen.value = were
    task.value = now
    // what is done to one panel is done to the only one
    if (!panel.value && now !== 'join' && panels.value.length === 1) at.value = panels.value[0]!.id
  }
  function choosePanel(id: string) {
    drop()
    cover.value = ''
    at.value = id
  }
  function pickEdge(id: string, edge: string, more: boolean) {
    if (!ON_EDGES.includes(task.value)) task.value = 'allow'
    const were = chosen.value
    drop()
    // a run of a join may go over several panels, all else is about one
    chosen.value = chosenAfter(
      id === at.value || task.value === 'join' ? were : [],
      edge,
      more && (id === at.value || task.value === 'join'),
    )
    at.value = id
  }
  function pickCorner(id: string, edge: string) {
    drop()
    task.value = 'allow'
    at.value = id
    corner.value = edge
  }
  function pickFeature(id: string, which: string) {
    drop()
    at.value = id
    feature.value = which
  }
  function pickJoin(which: string) {
    drop()
    task.value = 'join'
    join.value = which
  }
  /** From the chosen thing to the panel it is of, from there to the table; false where nothing is chosen. */
  function leave(): boolean {
    if (!chosen.value.length && oneSide.value.length) oneSide.value = []
    else if (chosen.value.length || corner.value || feature.value || join.value) drop()
    else if (task.value !== 'allow') task.value = 'allow'
    else if (at.value || cover.value) at.value = cover.value = ''
    else return false
    return true
  }
  /** From edge to edge of the panel, or of the only one; false where there is none. */
  function stepEdge(by: 1 | -1, more: boolean): boolean {
    if (!panel.value) at.value = panels.value[0]?.id ?? ''
    const next = step(all.value, chosen.value.at(-1) ?? oneSide.value.at(-1) ?? (corner.value || null), by)
    if (next) pickEdge(at.value, next, more)
    return !!next
  }
  const showLast = () => choosePanel(panels.value.at(-1)?.id ?? '')
  /** The features of a panel that the task is about. */
  const features = (of: Panel) => of.features.filter((f) => (kindsOf(task.value) as readonly string[]).includes(f.kind))

  watch(
    panels,
    (now, before) => {
      if (!before?.length) {
        if (now.length === 1) at.value = now[0]!.id
        return
      }
      // where the panel is gone, the one that lies in its place
      if (at.value && !panel.value)
        at.value =
          now[
            Math.min(
              before.findIndex((p) => p.id === at.value),
              now.length - 1,
            )
          ]?.id ?? ''
      const own = now.flatMap((p) => ownEdges(p.rings))
      chosen.value = chosen.value.filter((id) => own.includes(id))
      oneSide.value = oneSide.value.filter((id) => own.includes(id))
      if (corner.value && !own.includes(corner.value)) corner.value = ''
      if (feature.value && !chosenFeature.value) feature.value = ''
      if (join.value && !chosenJoin.value) join.value = ''
    },
    { immediate: true },
  )
  return {
    ...{ task, at, chosen, corner, feature, join, cover, oneSide, panels, panel, all, edges, chosenFeature, chosenJoin, subject },
    ...{ take, choosePanel, pickEdge, pickCorner, pickFeature, pickJoin, drop, leave, stepEdge, showLast, features },
  }
}
export type Draft = ReturnType<typeof useDraft>

/** An edge of a panel as it is drawn; of one in several parts the main one that is still called as it is. */
export function drawnEdge(panel: Panel | null, id: string): SeamEdge | null {
  const parts = panel?.rings.flat().filter((e) => e.of === id && e.main_part) ?? []
  return parts.find((e) => e.name === e.own_name) ?? parts[0] ?? null
}

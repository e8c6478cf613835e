<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import PlaceTag from '../../bench/PlaceTag.vue'
import { boundsOf, grown, type Bounds } from '../../logic/labelPlace'
import { onTable, type Lie, type TableBox } from '../../logic/lies'
import { GRAIN_PX } from '../../logic/tags'
import { drawnEdge } from '../../state/draft'
import { useDraftBench } from '../../state/keys'
import CornerTag from './CornerTag.vue'
import EdgeTag from './EdgeTag.vue'
import FeatureTag from './FeatureTag.vue'
import JoinTag from './JoinTag.vue'
import PanelTag from './PanelTag.vue'
import type { FeatureWork } from './useFeature'

/** The tag of what is chosen, hung at its place on the table. */
type At = { x: number; y: number }
/** Far enough off an edge to leave its band in sight. */
const OFF_EDGE_PX = 44
/** In a hand a panel's tag would lie over all of it; the slip asks the same. */
const PANEL_TAG_ROOM_PX = 420
const props = defineProps<{
  lies: ReadonlyMap<string, Lie>
  boxes: readonly TableBox[]
  seen: (p: At) => At
  room: { width: number; height: number }
  work: FeatureWork
}>()
const { task, at, panel, panels, chosen, corner, chosenFeature, chosenJoin, subject } = useDraftBench()
const edgeTag = useTemplateRef('edgeTag')
const emit = defineEmits<{ covers: [box: Bounds | null] }>()
let last: Bounds | null = null
/** Say what of the table a tag covers that lies over a box of the window, where that changes: not while the view is panned. */
function cover(box: Bounds | null) {
  const [origin, east] = [props.seen({ x: 0, y: 0 }), props.seen({ x: 1, y: 0 })]
  const lies = (p: At) => ({ x: (p.x - origin.x) / (east.x - origin.x), y: (origin.y - p.y) / (east.x - origin.x) })
  const now = box && boundsOf([lies(box.low), lies(box.high)])
  if (now && last && Math.max(...(['low', 'high'] as const).map((c) => Math.hypot(now[c].x - last![c].x, now[c].y - last![c].y))) < 1e-6)
    return
  last = now
  emit('covers', now)
}
defineExpose({ type: (key: string) => edgeTag.value?.type(key) })

/** What a tag of a panel keeps clear of, in the window's pixels: the other panels, and its own grain arrow; the tag of
 * something `inside` it, or of all of it, of the panel too. */
function others(id: string, lie: Lie, inside: boolean): Bounds[] {
  const own = panels.value.find((p) => p.id === id)
  const boxes = props.boxes.filter((b) => inside || b.of !== own?.name).map((b) => boundsOf([props.seen(b.low), props.seen(b.high)]))
  const grain = own?.draft?.marks?.find((m) => m.kind === 'grain')?.points ?? []
  if (!grain.length) return boxes
  const arrow = boundsOf(grain.map((p) => props.seen(onTable(lie, { x: p[0] ?? 0, y: p[1] ?? 0 }))))
  return [...boxes, grown(arrow, GRAIN_PX)]
}

/** Where on the table the chosen thing is, which way its tag hangs from it, and how far off; of a panel's frame. */
const hung = computed(() => {
  const of = (id: string, p: readonly number[], away: readonly number[], off: number, inside = false) => {
    const lie = props.lies.get(id)
    if (!lie) return null
    const place = props.seen(onTable(lie, { x: p[0] ?? 0, y: p[1] ?? 0 }))
    const way = onTable({ ...lie, x: 0, y: 0 }, { x: away[0] ?? 0, y: away[1] ?? 1 })
    return { at: place, away: { x: way.x, y: -way.y }, off, others: others(id, lie, inside) }
  }
  if (subject.value === 'edges') {
    const e = drawnEdge(panel.value, chosen.value.at(-1) ?? '')
    return e && of(at.value, e.middle, e.outward, OFF_EDGE_PX)
  }
  if (subject.value === 'corner') {
    const ring = panel.value?.rings.find((r) => r.some((e) => e.of === corner.value)) ?? []
    const last = ring.findLastIndex((e, k) => e.of === corner.value && ring[(k + 1) % ring.length]?.of !== corner.value)
    const [e, next] = [ring[last], ring[(last + 1) % ring.length]]
    if (!e || !next) return null
    const out = [(e.ways[1][0] ?? 0) - (next.ways[0][0] ?? 0), (e.ways[1][1] ?? 0) - (next.ways[0][1] ?? 0)]
    const long = Math.hypot(out[0]!, out[1]!)
    return of(at.value, next.start, long > 0.1 ? [out[0]! / long, out[1]! / long] : e.outward, 40)
  }
  if (subject.value === 'panel' && panel.value) {
    if (props.room.width < PANEL_TAG_ROOM_PX) return null
    const [x, y, w, h] = panel.value.box
    return of(at.value, [x + w / 2, y + h], [0, 1], 12, true)
  }
  const f = chosenFeature.value
  if (f?.lies_at) return of(at.value, f.lies_at, [0, -1], 26, true)
  const along = task.value === 'join' ? chosenJoin.value?.first[0] : undefined
  const e = along && drawnEdge(panels.value.find((p) => p.id === along.panel) ?? null, along.edge)
  return e ? of(along.panel, e.middle, e.outward, 34) : null
})
const LABELS = { edges: 'The chosen edges', corner: 'The chosen corner', panel: 'The chosen panel', join: 'The chosen join' } as const
const label = computed(() => LABELS[subject.value as keyof typeof LABELS] ?? 'What is chosen')
</script>

<template>
  <PlaceTag v-if="hung" v-bind="hung" :room="room" :label="label" @covers="cover">
    <EdgeTag v-if="subject === 'edges'" ref="edgeTag" :key="chosen.join()" />
    <CornerTag v-else-if="subject === 'corner'" :key="corner" />
    <PanelTag v-else-if="subject === 'panel'" :key="at" />
    <JoinTag v-else-if="subject === 'join'" />
    <FeatureTag v-else :key="chosenFeature?.id" :work="work" />
  </PlaceTag>
</template>

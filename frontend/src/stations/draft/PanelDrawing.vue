<script setup lang="ts">
import { ringPath } from '../../logic/rings'
import { computed, nextTick, shallowRef, useTemplateRef, watch } from 'vue'
import type { Panel, Schemas, SeamEdge } from '../../api/client'
import { cornerPath, cornersOf } from '../../logic/corners'
import { flagAt, flagBox } from '../../logic/joins'
import { onTable, transformOf, upright, type Lie, type TableBox } from '../../logic/lies'
import { boundsOf, grown, sharedArea, type Bounds } from '../../logic/labelPlace'
import { nearestPath } from '../../logic/nearest'
import { notchPaths } from '../../logic/notches'
import { clearest, GRAIN_PX, spotBox, TAG_HEIGHT, tagBox, tagWidth } from '../../logic/tags'
import MeasureTag from '../../bench/MeasureTag.vue'
import PanelLabel from './PanelLabel.vue'
import PanelSpots from './PanelSpots.vue'

/** A panel on the table: as it is cut, as it is sewn, or with its hems folded back. */
export type Look = 'cut' | 'sewn' | 'folded'
const props = defineProps<{
  panel: Panel
  lie: Lie
  px: number
  unit: string
  chosen: readonly string[]
  active: boolean
  /** Edges, by their ids, of the join that is shown. */
  joined?: readonly string[]
  look: Look
  /** Of its edges, by their ids, the letters of the joins that they are sewn in. */
  flags?: ReadonlyMap<string, readonly string[]>
  /** Corners at which three panels meet and seams end. */
  dots?: readonly (readonly number[])[]
  still?: boolean
  /** The chosen corner, by the edge at whose end it is. */
  corner?: string
  /** The edge whose tag hangs beside it. */
  tagged?: string
  /** Features that are pointed at, and which of them is chosen. */
  pins?: readonly Schemas['FeatureView'][]
  pinned?: string
  boxes?: readonly TableBox[]
  /** What of the table the tag of what is chosen covers. */
  covered?: Bounds | null
  /** Whether joins are pointed at. */
  joining?: boolean
}>()
const emit = defineEmits<{
  pick: [edge: string, more: boolean]
  corner: [edge: string]
  pin: [feature: string]
  flag: [letter: string]
  press: [e: PointerEvent]
}>()

const OWN = new Set(['grain', 'label'])
/** Of how far an edge’s tag can stand aside of its middle, the shares that are tried. */
const ASIDE = [0, 0.25, -0.25, 0.5, -0.5, 0.75, -0.75, 0.9, -0.9]
/** So much deeper in the panel a tag clears a place that is marked at the edge, pixels. */
const PAST_SPOT_PX = 16
const is = (e: SeamEdge) => props.active && !!e.of && props.chosen.includes(e.of)
const seam = computed(() => props.panel.rings.map(ringPath))
const band = computed(() => `${props.panel.cutting_lines.join(' ')} ${seam.value.join(' ')}`)
const cloth = computed(() => seam.value.join(' '))
const marks = computed(() => props.panel.draft?.marks ?? [])
const grain = computed(() => marks.value.find((m) => m.kind === 'grain')?.points ?? [])
/** How long the grain arrow's heads are: both have room on a short one. */
const grainHead = computed(() => {
  const [[ax = 0, ay = 0] = [], [bx = 0, by = 0] = []] = grain.value
  return Math.min(GRAIN_PX * props.px, 0.4 * Math.hypot(bx - ax, by - ay))
})
const runs = computed(() =>
  marks.value
    .filter((m) => !OWN.has(m.kind) && m.points.length > 1 && (props.look === 'cut' || !['relief', 'trim', 'fold'].includes(m.kind)))
    .map((m, k) => ({
      key: `${m.kind}${k}`,
      kind: m.kind,
      d: `M${m.points.map((p) => `${p[0]} ${-(p[1] ?? 0)}`).join(' L')}`,
      dashed: m.dashed,
    })),
)
const turned = computed<Lie>(() => ({ ...props.lie, x: 0, y: 0 }))
const singleMarks = computed(() => marks.value.filter((m) => !OWN.has(m.kind) && m.points.length === 1))
const seenFrom = (p: readonly number[]) => onTable(turned.value, { x: p[0] ?? 0, y: p[1] ?? 0 })
const circles = computed(() => singleMarks.value.map((m) => spotBox(seenFrom(m.points[0]!), props.px)))
/** Where the panel’s name is written, on the table. */
const nameBox = shallowRef<Bounds | null>(null)
const notches = computed(() => notchPaths(props.panel.draft?.notches ?? []))
const tagSize = (text: string) => ({ width: tagWidth(text) * props.px, height: TAG_HEIGHT * props.px })
const tags = computed(() => {
  const drawn = [...circles.value]
  if (grain.value.length) drawn.push(grown(boundsOf(grain.value.map(seenFrom)), GRAIN_PX * props.px))
  const edges = props.panel.rings.flatMap((ring, r) =>
    ring
      .map((e, k) => ({ e, key: `${r}-${k}`, r, text: `${e.name} ${e.length}${e.on_seam ? '' : ` + ${e.allowance}`}`, chosen: is(e) }))
      .filter(
        ({ e, r, text, chosen }) =>
          e.main_part &&
          e.of !== props.tagged &&
          (chosen || (props.active && r === 0 && Number.parseFloat(e.length) > 0 && hasRoom(e, text))),
      ),
  )
  const hung: Bounds[] = []
  return edges
    .sort((a, b) => Number(b.chosen) - Number(a.chosen))
    .flatMap(({ e, key, text, chosen }) => {
      const { deep, along } = sizeOf(e, text)
      const inward = [3, 3 + PAST_SPOT_PX].map((off) => (deep / 2 + off) * props.px)
      const [ox, oy] = e.outward
      // along a straight edge it may stand aside for what is drawn there
      const aside = e.kind === 'line' ? Math.max(0, reach(e) - along / 2) * props.px : 0
      const places = inward.flatMap((off) =>
        ASIDE.map((share) => [e.middle[0] - ox * off - oy * share * aside, e.middle[1] - oy * off + ox * share * aside]),
      )
      const [x = 0, y = 0] = places[clearest(places.map(seenFrom), tagSize(text), [...drawn, ...hung])] ?? []
      const box = tagBox(seenFrom([x, y]), text, props.px)
      // at a distance there are fewer
      if (!chosen && hung.some((other) => sharedArea(other, box))) return []
      hung.push(box)
      return [{ x, y: -y, text, chosen, key }]
    })
})
/** What those who write on the panel are told: the same while it is. */
const hungTags = computed(() => (props.still ? [] : tags.value))
const onTableToo = computed(() => props.boxes ?? [])
/** Those that the tag of what is chosen doesn't lie over. */
const seenTags = computed(() => {
  const { covered, lie, still } = props
  const isClear = (t: { x: number; y: number; text: string }) =>
    !covered || !sharedArea(tagBox(onTable(lie, { x: t.x, y: -t.y }), t.text, props.px), covered)
  return still ? [] : tags.value.filter(isClear)
})
/** How far an edge’s tag reaches along the edge and into the panel, as both lie on the screen; pixels. */
function sizeOf(e: SeamEdge, text: string) {
  const [nx, ny] = e.outward
  const seen = onTable({ ...props.lie, x: 0, y: 0 }, { x: nx, y: ny })
  const [across, up] = [Math.abs(seen.x), Math.abs(seen.y)]
  const [wide, high] = [tagWidth(text), TAG_HEIGHT]
  return { along: up * wide + across * high, deep: across * wide + up * high }
}
/** Whether a tag has room beside its edge and doesn’t reach to the panel’s middle; when near there are more. */
function hasRoom(e: SeamEdge, text: string) {
  const { along, deep } = sizeOf(e, text)
  const [, , w = 0, h = 0] = props.panel.box
  const depth = Math.abs(e.outward[0]) * w + Math.abs(e.outward[1]) * h
  return 2 * reach(e) > along && depth / props.px > 2.2 * deep
}
const neighbours = computed(() => onTableToo.value.filter((b) => b.of !== props.panel.name))
/** Beads of a bound edge stay apart at a distance. */
function beadRadius({ beads: [first, second] }: SeamEdge) {
  const apart = first && second ? Math.hypot(second[0] - first[0], second[1] - first[1]) : Infinity
  return Math.min(4 * props.px, 0.32 * apart)
}
/** A flag for each join of an edge, beside it. */
const pennants = computed(() => {
  const placed = new Set<string>()
  return (props.panel.rings[0] ?? []).flatMap((e) => {
    const letters = e.of && e.main_part && !placed.has(e.of) ? props.flags?.get(e.of) : undefined
    if (!letters?.length || !long(e)) return []
    placed.add(e.of!)
    const text = letters.join(' ')
    const [x, y] = flagAt(e, props.lie, text, props.px, neighbours.value)
    return [{ key: e.of!, x, y: -y, text }]
  })
})
const flagBoxes = computed(() => pennants.value.map(({ x, y, text }) => flagBox([x, -y], props.lie, text, props.px)))
/** From an edge’s start to its middle, pixels; what is drawn, not a length. */
const reach = (e: { start: readonly number[]; middle: readonly number[] }) =>
  Math.hypot((e.start[0] ?? 0) - (e.middle[0] ?? 0), (e.start[1] ?? 0) - (e.middle[1] ?? 0)) / props.px
/** Whether an edge is long enough on the screen to carry its flag. */
const long = (e: Parameters<typeof reach>[0]) => reach(e) > 62
const corners = computed(() => props.panel.rings.flatMap((ring) => cornersOf(ring)))
const hits = useTemplateRef<SVGPathElement[]>('hits')
/** Of edges that lie close together the one nearest the pointer is meant, whichever is drawn on top. */
function pick(e: SeamEdge, ev: PointerEvent | KeyboardEvent) {
  if (props.still) return
  const near = ev instanceof PointerEvent ? nearestPath(hits.value ?? [], { x: ev.clientX, y: ev.clientY }, 30) : -1
  const edge = near < 0 ? e.of : hits.value![near]!.dataset.edge
  if (edge) emit('pick', edge, ev.shiftKey || ev.ctrlKey || ev.metaKey)
}
// one edge of the active panel is reached by Tab: the one chosen last, or the first; arrow keys lead on from it
const reached = computed(() => {
  if (!props.active) return null
  return props.chosen.at(-1) ?? props.panel.rings.flat().find((e) => e.of)?.of ?? null
})
const asButton = (e: SeamEdge) => ({
  role: 'button',
  tabindex: e.of === reached.value ? 0 : -1,
  'aria-pressed': is(e),
  'aria-label': `Edge ${e.name}, ${e.length} ${props.unit}, ${e.finish.replace('_', ' ')} ${e.allowance}`,
})
const root = useTemplateRef<SVGGElement>('root')
watch(reached, async () => {
  if (!root.value?.contains(document.activeElement)) return
  await nextTick()
  root.value.querySelector<SVGGElement>('[tabindex="0"]')?.focus()
})
</script>

<template>
  <g ref="root" class="panel" :transform="transformOf(lie)" role="group" :aria-label="`Panel ${panel.name}, ${panel.instruction}`">
    <path :d="cloth" class="cloth grab" :class="{ still }" fill-rule="evenodd" @pointerdown="emit('press', $event)" />
    <path v-if="look === 'cut' && panel.cutting_lines.length" :d="band" class="band" fill-rule="evenodd" :stroke-width="1.3 * px" />
    <template v-if="look === 'cut'">
      <template v-for="d in panel.hem_cloth" :key="d"><path :d="d" class="cloth" /><path :d="d" class="hem" /></template>
      <template v-for="(ring, r) in panel.rings" :key="r">
        <template v-for="(e, k) in ring" :key="k">
          <template v-if="r && e.folds_back && e.band"><path :d="e.band" class="cloth" /><path :d="e.band" class="hem" /></template>
          <path v-if="is(e) && e.band" :d="e.band" class="lit" />
          <path v-for="d in e.folds" :key="d" :d="d" class="fold" :stroke-width="1.5 * px" :stroke-dasharray="`${4 * px} ${4 * px}`" />
        </template>
      </template>
      <path v-for="d in notches" :key="d" :d="d" class="notch" :stroke-width="2 * px" />
    </template>
    <path v-for="d in look === 'folded' ? panel.hems : []" :key="d" :d="d" class="folded" :stroke-width="1.3 * px" />
    <path
      v-for="m in runs"
      :key="m.key"
      :d="m.d"
      class="mark"
      :class="m.kind"
      :stroke-width="1.4 * px"
      :stroke-dasharray="m.dashed ? `${6 * px} ${4 * px}` : undefined"
    />
    <PanelSpots :panel="panel" :lie="lie" :px="px" :marks="singleMarks" :tags="hungTags" :name="nameBox" :boxes="onTableToo" />
    <circle v-for="(d, k) in dots" :key="k" class="dot" :cx="d[0]" :cy="-(d[1] ?? 0)" :r="3.5 * px" />
    <g v-if="grain.length" class="grain" :stroke-width="2 * px">
      <line :x1="grain[0]![0]" :y1="-grain[0]![1]" :x2="grain[1]![0]" :y2="-grain[1]![1]" />
      <path
        v-for="(p, k) in grain"
        :key="k"
        :d="`M${-grainHead / 2} ${grainHead} L0 0 L${grainHead / 2} ${grainHead}`"
        :transform="`translate(${p[0]} ${-p[1]}) rotate(${90 - panel.grain_deg + (k ? 0 : 180)})`"
      />
    </g>
    <template v-for="(ring, r) in panel.rings" :key="`s${r}`">
      <g
        v-for="(e, k) in ring"
        :key="k"
        class="edge"
        :class="{ chosen: is(e), joined: !!e.of && joined?.includes(e.of), bare: e.bare, onfold: e.finish === 'fold' }"
        v-bind="e.of && e.main_part && !still ? asButton(e) : {}"
        @keydown.enter.space.stop.prevent="pick(e, $event)"
      >
        <path
          :d="e.path"
          class="seam"
          :stroke-width="(is(e) ? 5.5 : 3.2) * px"
          :stroke-dasharray="e.finish === 'fold' ? `${14 * px} ${5 * px} ${3 * px} ${5 * px}` : undefined"
        />
        <circle v-for="(b, i) in e.beads" :key="i" :cx="b[0]" :cy="-b[1]" :r="beadRadius(e)" class="bead" />
        <path
          v-if="e.of && !still"
          ref="hits"
          :d="e.path"
          :data-edge="e.of"
          class="hit"
          :stroke-width="34 * px"
          @pointerdown.stop
          @pointerup.stop="pick(e, $event)"
        />
      </g>
    </template>
    <g
      v-for="c in corners"
      :key="c.edge"
      class="corner"
      :class="{ chosen: active && c.edge === corner }"
      v-bind="active && !still ? { role: 'button', tabindex: -1, 'aria-pressed': c.edge === corner, 'aria-label': `Corner ${c.name}` } : {}"
      @keydown.enter.space.stop.prevent="emit('corner', c.edge)"
    >
      <path :d="cornerPath(c.at, c.arrives, c.leaves, Math.min(11 * px, c.room))" :stroke-width="(c.edge === corner ? 4 : 2.2) * px" />
      <circle
        v-if="!still"
        class="hit"
        :cx="c.at[0]"
        :cy="-c.at[1]"
        :r="11 * px"
        @pointerdown.stop
        @pointerup.stop="emit('corner', c.edge)"
      />
    </g>
    <template v-for="f in pins" :key="f.id">
      <g
        v-if="f.lies_at"
        class="pin"
        :class="{ chosen: f.id === pinned }"
        role="button"
        tabindex="0"
        :aria-pressed="f.id === pinned"
        :aria-label="f.words"
        :transform="upright(lie, f.lies_at[0], -f.lies_at[1])"
        @keydown.enter.space.stop.prevent="emit('pin', f.id)"
        @pointerdown.stop
        @pointerup.stop="emit('pin', f.id)"
      >
        <circle class="hit" :r="22 * px" />
        <path :d="`M0 0V${-20 * px}`" :stroke-width="2.4 * px" />
        <circle :cy="-24 * px" :r="(f.id === pinned ? 8 : 6) * px" :stroke-width="2 * px" />
      </g>
    </template>
    <g
      v-for="f in pennants"
      :key="f.key"
      class="pennant"
      :class="{ joining }"
      :transform="upright(lie, f.x, f.y)"
      v-bind="joining ? { role: 'button', tabindex: 0, 'aria-label': `Join ${f.text}` } : {}"
      @keydown.enter.space.stop.prevent="emit('flag', f.text)"
      @pointerdown="joining && $event.stopPropagation()"
      @pointerup="joining && ($event.stopPropagation(), emit('flag', f.text))"
    >
      <path :d="`M${-9 * px} ${-10 * px}H${(9 * f.text.length + 6) * px}l${-6 * px} ${9 * px}l${6 * px} ${9 * px}H${-9 * px}Z`" />
      <text :x="-3 * px" :y="4 * px" :font-size="14 * px">{{ f.text }}</text>
    </g>
    <PanelLabel :panel="panel" :lie="lie" :px="px" :tags="hungTags" :boxes="onTableToo" :flags="flagBoxes" @written="nameBox = $event" />
    <g v-for="t in seenTags" :key="t.key" :transform="upright(lie, t.x, t.y)"
      ><MeasureTag :x="0" :y="0" :px="px" :text="t.text" :chosen="t.chosen"
    /></g>
  </g>
</template>

<style scoped>
.edge:focus-visible {
  outline: none;
}
.edge:focus-visible .seam {
  stroke: var(--woad);
  filter: drop-shadow(0 0 3px var(--woad));
}
.cloth {
  fill: var(--paper);
}
.grab {
  cursor: grab;
}
.grab.still {
  cursor: default;
}
.band {
  fill: url('#dots');
  stroke: var(--ink);
  pointer-events: none;
}
.hem {
  fill: url('#hatch');
  pointer-events: none;
}
.lit {
  fill: var(--woad);
  fill-opacity: 0.16;
  pointer-events: none;
}
.fold {
  fill: none;
  stroke: var(--woad);
  pointer-events: none;
}
.folded {
  fill: var(--tape);
  stroke: var(--ink);
  pointer-events: none;
}
.mark {
  fill: none;
  stroke: var(--ink);
  pointer-events: none;
}
.mark.relief,
.mark.slit {
  stroke: var(--madder);
}
.mark.fold,
.mark.stitch,
.mark.pleat,
.mark.on_fold {
  stroke: var(--woad);
}
.dot {
  fill: var(--ink);
  pointer-events: none;
}
.seam {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
}
.onfold .seam {
  stroke-linecap: butt;
}
.bare .seam {
  stroke: var(--madder);
}
.joined .seam {
  stroke: var(--moss);
  stroke-width: 6px;
  vector-effect: non-scaling-stroke;
}
.chosen .seam {
  stroke: var(--woad);
}
.bead {
  fill: var(--madder);
}
.hit {
  fill: none;
  stroke: transparent;
  pointer-events: stroke;
  cursor: pointer;
}
.corner path {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
  pointer-events: none;
}
.corner.chosen path {
  stroke: var(--woad);
}
.corner:focus-visible,
.pin:focus-visible,
.pennant:focus-visible {
  outline: none;
  filter: drop-shadow(0 0 4px var(--woad));
}
circle.hit {
  fill: transparent;
  stroke: none;
  pointer-events: all;
}
.pin {
  cursor: pointer;
}
.pin path {
  stroke: var(--ink);
}
.pin circle:not(.hit) {
  fill: var(--tape-filled);
  stroke: var(--ink);
}
.pin.chosen circle:not(.hit) {
  fill: var(--woad);
}
.notch {
  fill: var(--paper);
  stroke: var(--ink);
  pointer-events: none;
}
.pennant {
  pointer-events: none;
}
.pennant.joining {
  pointer-events: all;
  cursor: pointer;
}
.pennant path {
  fill: var(--tape-filled);
  stroke: none;
}
.pennant text {
  fill: var(--tape-ink);
  font-weight: 700;
}
.grain {
  fill: none;
  stroke: var(--ink);
  pointer-events: none;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bandPath } from '../../logic/band'
import { useOpenJob, useShapeBench } from '../../state/keys'
import { cornerPath } from '../../logic/corners'
import { boxAbout } from '../../logic/labelPlace'
import { follow } from '../../logic/preview'
import { TAG_HEIGHT, tagWidth, withRoom } from '../../logic/tags'
import { thinPath } from '../../logic/thinPath'
import MeasureTag from '../../bench/MeasureTag.vue'

/** The outline with its corners, edges and measures, and what a hand is drawing; over its photo in light colours. */
const props = defineProps<{
  px: number
  /** Whether the outline lies where its photo shows it, with what the capture says of it. */
  over: boolean
  /** Whether a photo lies beneath. */
  light: boolean
  placed: Schemas['PlacedPhoto'] | null
  place: (e: PointerEvent) => { x: number; y: number }
}>()
/** How many doubtful stretches are told by a tag, and where a corner's letter stands from it, pixels. */
const MOST_DOUBTS = 5
const FLAG = { x: 22, y: -15 }
const flagWidth = (letter: string) => letter.length * 9 + 14
const { job } = useOpenJob()
const { table, hand } = useShapeBench()
const { shape, tried, chosen, folding, dragged, measure } = table
const { strokes, points, way, unseen } = hand

const trusted = computed(() => props.placed?.trusted.map(([x, y]) => `${x},${-y}`).join(' ') ?? '')
const band = computed(() => (props.over && props.placed ? bandPath(props.placed.band, 3 * props.px) : ''))
const foldLine = computed(() => {
  const [a, b] = (folding.value ?? []).map((k) => shape.value?.rings[0]?.joints[k]?.point)
  return a && b ? { x1: a[0], y1: -a[1], x2: b[0], y2: -b[1] } : null
})
const rings = computed(() => tried.value ?? shape.value?.rings ?? [])
/** The traces as a screen can show them, to a third of a pixel, anew where the scale has doubled or halved. */
const finest = computed(() => 2 ** Math.floor(Math.log2(0.3 * props.px)))
const traces = computed(() => rings.value.map((ring) => thinPath(ring.trace, finest.value)))
const line = (ring: readonly (readonly number[])[]) => ring.map(([x, y]) => `${x},${-(y ?? 0)}`).join(' ')
function at(ring: number, k: number, point: readonly number[]) {
  const d = dragged.value
  return d && d.ring === ring && d.corner === k ? { x: d.x, y: -d.y } : { x: point[0] ?? 0, y: -(point[1] ?? 0) }
}
function pick(e: PointerEvent, ring: number, k: number) {
  const { x, y } = props.place(e)
  table.pickEdge(ring, k, x, y)
}
/** Over a line that was drawn with a pen the outline is dashed, so that the pen's line stays in sight. */
const drawnLine = computed(() => props.over && job.value?.photos.find((p) => p.id === shape.value?.photo)?.kind === 'line')
/** An edge whose end is being dragged follows the hand. */
function following(ring: number, k: number): string | undefined {
  const d = dragged.value
  const joints = rings.value[ring]?.joints ?? []
  const count = joints.length
  if (!d || d.ring !== ring || count < 2 || (d.corner !== k && d.corner !== (k + 1) % count)) return undefined
  const place = (j: number) => ({ x: joints[j]!.point[0], y: -joints[j]!.point[1] })
  const other = d.corner === k ? (k + 1) % count : k
  return follow(place(other), place(d.corner), { x: d.x, y: -d.y })
}
/** How a corner is drawn, about its place: its edges past one another, or a tick where they run on. */
function drawnCorner(ring: number, k: number): string {
  const { edges = [], joints = [] } = rings.value[ring] ?? {}
  const [before, after] = [edges.at(k - 1), edges[k]]
  if (!before || !after) return ''
  const leaves = after.ways[0]
  return cornerPath([0, 0], joints[k]?.smooth ? leaves : before.ways[1], leaves, 13 * props.px)
}
const pixels = (x: number, y: number) => ({ x: x / props.px, y: y / props.px })
const boxOf = (d: { x: number; y: number; text: string }) => boxAbout(pixels(d.x, d.y), { width: tagWidth(d.text), height: TAG_HEIGHT }, 0)
/** The tags of what is doubtful, the worst few, as far as they have room; when near there are more. */
const doubts = computed(() => {
  const open = (props.over ? (props.placed?.doubtful ?? []) : []).map((s, k) => ({ s, text: `${k + 1} ± ${s.off}` }))
  const worst = open
    .filter(({ s }) => !s.is_settled)
    .sort((one, other) => other.s.off_mm - one.s.off_mm)
    .slice(0, MOST_DOUBTS)
  const tags = worst.map(({ s: { line }, text }) => {
    const [x, y] = line[Math.floor(line.length / 2)]!
    return { text, x, y: -y }
  })
  const shown = withRoom(tags.map(boxOf))
  return tags.filter((_, k) => shown[k])
})
/** Which corners have room for their letter, clear of those tags and of each other; when near there are more. */
const lettered = computed(() => {
  const joints = rings.value[0]?.joints ?? []
  const flags = joints.map((j, k) => {
    const width = flagWidth(j.letter)
    const { x, y } = at(0, k, j.point)
    const corner = pixels(x, y)
    return boxAbout({ x: corner.x + FLAG.x - 12 + width / 2, y: corner.y + FLAG.y }, { width, height: 20 }, 0)
  })
  return withRoom(flags, doubts.value.map(boxOf), chosen.value?.ring === 0 ? chosen.value.corner : undefined)
})
const isChosen = (ring: number, k: number, what: 'edge' | 'corner') => chosen.value?.ring === ring && chosen.value[what] === k
</script>

<template>
  <g :class="{ over: light }">
    <polygon v-if="over" :points="trusted" class="trusted" :stroke-width="2 * px" :stroke-dasharray="`${3 * px} ${7 * px}`" />
    <template v-if="over && placed">
      <polygon v-for="(paper, k) in placed.papers" :key="`a${k}`" :points="line(paper)" class="paper" :stroke-width="2 * px" />
      <polygon
        v-for="(ring, k) in placed.shadows"
        :key="`h${k}`"
        :points="line(ring)"
        class="shade"
        :stroke-width="1.5 * px"
        :stroke-dasharray="`${2 * px} ${4 * px}`"
        ><title>taken for shadow</title></polygon
      >
    </template>
    <path v-for="d in shape?.before" :key="d" :d="d" class="before" :stroke-width="2.5 * px" :stroke-dasharray="`${8 * px} ${6 * px}`" />
    <path v-if="band" :d="band" class="band" />
    <g v-if="over && placed" class="doubt">
      <polyline
        v-for="(s, k) in placed.doubtful"
        :key="`d${k}`"
        :class="{ settled: s.is_settled }"
        :points="line(s.line)"
        :stroke-width="11 * px"
        :stroke-dasharray="`${3 * px} ${5 * px}`"
      />
    </g>
    <g v-if="over && placed"
      ><circle v-for="([x, y], k) in placed.marks" :key="`m${k}`" class="mark" :cx="x" :cy="-y" :r="7 * px" :stroke-width="2 * px"
    /></g>
    <template v-if="shape">
      <g v-for="(ring, r) in rings" :key="r">
        <path v-if="!band" :d="traces[r]" class="error" :stroke-width="Math.max(2 * (shape.error_mm ?? 0), 6 * px)" />
        <path :d="traces[r]" class="trace" :stroke-width="1.5 * px" />
        <g
          v-for="(e, k) in ring.edges"
          :key="`${r}-${k}`"
          class="along"
          role="button"
          :tabindex="hand.mode.value ? -1 : 0"
          :aria-pressed="isChosen(r, k, 'edge')"
          :aria-label="`Edge ${e.name}${r ? ` of hole ${r}` : ''}, ${e.kind}, ${e.length} ${job?.unit}`"
          @keydown.enter.space.stop.prevent="table.pickEdge(r, k, e.middle[0], e.middle[1])"
        >
          <path
            :d="e.path"
            class="edge"
            :class="{ chosen: isChosen(r, k, 'edge') }"
            :transform="following(r, k)"
            :stroke-dasharray="drawnLine && !isChosen(r, k, 'edge') ? `${5 * px} ${9 * px}` : undefined"
            :stroke-width="(isChosen(r, k, 'edge') ? 5 : 3) * px"
          />
          <path :d="e.path" class="hit" :stroke-width="30 * px" @pointerdown.stop @pointerup.stop="pick($event, r, k)" />
        </g>
      </g>
      <g v-for="(t, k) in shape.tape" :key="`t${k}`">
        <line
          v-if="t.ends.length"
          :x1="t.ends[0]![0]"
          :y1="-t.ends[0]![1]"
          :x2="t.ends[1]![0]"
          :y2="-t.ends[1]![1]"
          class="tapeline"
          :stroke-width="2 * px"
          :stroke-dasharray="`${7 * px} ${5 * px}`"
        />
        <MeasureTag
          v-if="t.ends.length && t.id !== measure"
          :x="(t.ends[0]![0] + t.ends[1]![0]) / 2"
          :y="-(t.ends[0]![1] + t.ends[1]![1]) / 2"
          :px="px"
          :text="`${t.outline} ${job?.unit}`"
          plain
        />
      </g>
      <g v-for="(p, k) in shape.parts" :key="`p${k}`" class="part" :transform="`translate(${p.point[0]} ${-p.point[1]})`">
        <circle :r="5 * px" :stroke-width="2.4 * px" /><text v-if="p.text" :y="-10 * px" :font-size="15 * px">{{ p.text }}</text>
      </g>
      <g v-for="(ring, r) in rings" :key="`j${r}`" :class="{ trying: tried }">
        <g
          v-for="(j, k) in ring.joints"
          :key="k"
          class="joint"
          :class="{ chosen: isChosen(r, k, 'corner') }"
          role="button"
          tabindex="0"
          :aria-pressed="isChosen(r, k, 'corner')"
          :aria-label="`Corner ${j.letter}${r ? ` of hole ${r}` : ''}`"
          :transform="`translate(${at(r, k, j.point).x} ${at(r, k, j.point).y})`"
          @pointerdown.stop="table.startDrag($event, r, place, 24 * px)"
          @keydown.enter.space.stop.prevent="table.pickCorner(r, k)"
        >
          <circle :r="22 * px" class="hit" />
          <path :d="drawnCorner(r, k)" class="halo" :stroke-width="6.5 * px" />
          <path :d="drawnCorner(r, k)" class="chalk" :stroke-width="3 * px" />
          <g v-if="r === 0 && lettered[k]" :transform="`translate(${FLAG.x * px} ${FLAG.y * px})`"
            ><rect class="flag" :x="-12 * px" :y="-10 * px" :width="flagWidth(j.letter) * px" :height="20 * px" :rx="10 * px" /><text
              :x="(j.letter.length * 4.5 - 5) * px"
              :y="4.8 * px"
              :font-size="14 * px"
              >{{ j.letter }}</text
            ></g
          >
        </g>
      </g>
      <MeasureTag v-for="d in doubts" :key="d.text" :x="d.x" :y="d.y" :px="px" :text="d.text" plain />
      <line
        v-if="foldLine"
        v-bind="foldLine"
        class="fold"
        :stroke-width="3 * px"
        :stroke-dasharray="`${14 * px} ${5 * px} ${3 * px} ${5 * px}`"
      />
    </template>
    <g class="hand">
      <polyline
        v-for="(s, k) in strokes"
        :key="`s${k}`"
        :points="line(s.points)"
        :class="s.piece ? 'piece' : 'table'"
        :stroke-width="s.width"
      />
      <polyline v-if="way.length" :points="line(way)" class="way" :stroke-width="4 * px" />
      <polyline
        v-for="(stretch, k) in unseen"
        :key="`u${k}`"
        :points="line(stretch)"
        class="unseen"
        :stroke-width="11 * px"
        :stroke-dasharray="`${3 * px} ${5 * px}`"
      />
      <circle v-for="([x, y], k) in points" :key="`w${k}`" class="step" :cx="x" :cy="-y" :r="6 * px" :stroke-width="2 * px" />
    </g>
  </g>
</template>

<style scoped>
.error {
  fill: none;
  stroke: var(--tape-filled);
  stroke-opacity: 0.45;
  stroke-linejoin: round;
}
.before {
  fill: none;
  stroke: var(--madder);
}
.over .before {
  stroke: #ffb09f;
}
.band {
  fill: var(--tape-filled);
  fill-opacity: 0.5;
  fill-rule: evenodd;
}
.trace {
  fill: none;
  stroke: var(--soft-ink);
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
}
.over .edge {
  stroke: #fff;
}
.over .trace {
  stroke: var(--tape-filled);
}
.edge.chosen {
  stroke: var(--woad);
}
.over .edge.chosen {
  stroke: #7cc4f2;
}
.hit {
  fill: transparent;
  stroke: transparent;
  cursor: pointer;
}
path.hit {
  fill: none;
  pointer-events: stroke;
}
.joint {
  cursor: grab;
  outline: none;
}
.along:focus-visible {
  outline: none;
}
.along:focus-visible .edge {
  filter: drop-shadow(0 0 3px var(--woad));
}
.joint:focus-visible > circle.hit {
  stroke: #7cc4f2;
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
}
.joint path {
  fill: none;
  stroke-linecap: round;
  pointer-events: none;
}
.halo {
  stroke: #1f2d2b;
}
.chalk {
  stroke: #fff;
}
.joint.chosen .chalk {
  stroke: #7cc4f2;
}
.flag {
  fill: #1f2d2b;
}
.trying {
  pointer-events: none;
}
.joint text {
  fill: #fff;
  text-anchor: middle;
  font-weight: 700;
}
.part {
  pointer-events: none;
}
.part circle {
  fill: var(--tape-filled);
  stroke: #1f2d2b;
}
.part text {
  text-anchor: middle;
  font-weight: 700;
  fill: var(--ink);
}
.over .part text {
  fill: #fff;
}
.trusted {
  fill: none;
  stroke: #fff;
  opacity: 0.75;
}
.paper {
  fill: #7cc4f2;
  fill-opacity: 0.12;
  stroke: #7cc4f2;
  pointer-events: none;
}
.shade {
  fill: #1f2d2b;
  fill-opacity: 0.25;
  stroke: #fff;
  pointer-events: none;
}
.doubt {
  pointer-events: none;
}
.doubt polyline {
  fill: none;
  stroke: #ff8a70;
}
.doubt polyline.settled {
  stroke: #93c79d;
  stroke-opacity: 0.6;
}
.mark {
  fill: none;
  stroke: #7cc4f2;
}
.fold {
  stroke: var(--madder);
}
.over .fold {
  stroke: #ffd9d2;
}
.tapeline {
  stroke: var(--ink);
}
.over .tapeline {
  stroke: #fff;
}
.hand {
  pointer-events: none;
}
.hand polyline {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.hand .piece {
  stroke: #7cc4f2;
  stroke-opacity: 0.75;
}
.hand .table {
  stroke: #ffb09f;
  stroke-opacity: 0.8;
}
.hand .way {
  stroke: #7cc4f2;
}
.hand .unseen {
  stroke: #ff8a70;
  stroke-linecap: butt;
}
.step {
  fill: #fff;
  stroke: #1f2d2b;
}
</style>

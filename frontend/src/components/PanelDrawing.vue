<script setup lang="ts">
import { computed } from 'vue'
import type { Panel } from '../api/client'
import { sameEdge, type EdgeRef } from '../logic/steps'
import MeasureTag from './MeasureTag.vue'

const props = defineProps<{ panel: Panel; px: number; unit: string; chosen: readonly EdgeRef[]; active: boolean }>()
defineEmits<{ pick: [edge: EdgeRef, more: boolean] }>()

const is = (r: number, k: number) => props.active && props.chosen.some((c) => sameEdge(c, [r, k]))
const seam = computed(() => props.panel.rings.map((ring) => ring.map((e, k) => (k ? e.path.replace(/^M\S+ \S+/, '') : e.path)).join(' ') + ' Z'))
const band = computed(() => `${props.panel.cut.join(' ')} ${seam.value.join(' ')}`)
const cloth = computed(() => seam.value.join(' '))
const grain = computed(() => props.panel.drafted?.marks?.find((m) => m.kind === 'grain')?.points ?? [])
const label = computed(() => props.panel.drafted?.marks?.find((m) => m.kind === 'label'))
const notches = computed(() =>
  (props.panel.drafted?.notches ?? []).flatMap((n) => {
    if (!n.on_seam || !n.on_cut) return []
    const [dx, dy] = [n.on_seam[0] - n.on_cut[0], n.on_seam[1] - n.on_cut[1]]
    const length = Math.hypot(dx, dy)
    const depth = length ? (n.depth_mm ?? 0) / length : 0
    const tip = [n.on_cut[0] + dx * depth, n.on_cut[1] + dy * depth] as const
    const side = length ? ([(-dy / length) * 2.4, (dx / length) * 2.4] as const) : ([2.4, 0] as const)
    const shifts = n.double ? [-1.6, 1.6] : [0]
    return shifts.map((s) => {
      const o = [(side[0] / 2.4) * s, (side[1] / 2.4) * s] as const
      return `M${n.on_cut![0] + side[0] + o[0]} ${-(n.on_cut![1] + side[1] + o[1])} L${tip[0] + o[0]} ${-(tip[1] + o[1])} L${n.on_cut![0] - side[0] + o[0]} ${-(n.on_cut![1] - side[1] + o[1])}`
    })
  }),
)
const tags = computed(() =>
  props.panel.rings.flatMap((ring, r) =>
    ring
      .map((e, k) => ({ e, r, k }))
      .filter(({ e, r, k }) => is(r, k) || (r === 0 && Number.parseFloat(e.length) > 0 && long(e)))
      .map(({ e, r, k }) => ({
        x: e.middle[0] - e.outward[0] * 17 * props.px,
        y: -(e.middle[1] - e.outward[1] * 17 * props.px),
        text: `${e.name} ${e.length}${e.finish === 'bound' ? '' : ` + ${e.allowance}`}`,
        chosen: is(r, k),
        key: `${r}-${k}`,
      })),
  ),
)
/** Whether an edge is long enough on the screen to carry its tag; what is drawn, not a length. */
function long(e: { start: readonly number[]; middle: readonly number[] }) {
  return Math.hypot((e.start[0] ?? 0) - (e.middle[0] ?? 0), (e.start[1] ?? 0) - (e.middle[1] ?? 0)) / props.px > 62
}
</script>

<template>
  <g class="panel">
    <path :d="cloth" class="cloth" fill-rule="evenodd" />
    <path v-if="panel.cut.length" :d="band" class="band" fill-rule="evenodd" :stroke-width="1.3 * px" />
    <template v-for="(ring, r) in panel.rings" :key="r">
      <template v-for="(e, k) in ring" :key="k">
        <template v-if="e.finish === 'hem' && e.band"><path :d="e.band" class="cloth" /><path :d="e.band" class="hem" /></template>
        <path v-if="is(r, k) && e.band" :d="e.band" class="lit" />
        <path v-if="e.fold" :d="e.fold" class="fold" :stroke-width="1.5 * px" :stroke-dasharray="`${4 * px} ${4 * px}`" />
      </template>
    </template>
    <path v-for="d in notches" :key="d" :d="d" class="notch" :stroke-width="2 * px" />
    <g v-if="label" class="label" :transform="`translate(${label.points[0]![0]} ${-label.points[0]![1]})`">
      <text :font-size="20 * px" font-weight="700">{{ label.lines?.[0] }}</text>
      <text v-for="(line, k) in label.lines?.slice(1)" :key="line" :font-size="15 * px" :y="(22 + 20 * k) * px" class="sub">{{ line }}</text>
    </g>
    <g v-if="grain.length" class="grain" :stroke-width="2 * px">
      <line :x1="grain[0]![0]" :y1="-grain[0]![1]" :x2="grain[1]![0]" :y2="-grain[1]![1]" />
      <path v-for="(p, k) in grain" :key="k" :d="`M${-6 * px} ${12 * px} L0 0 L${6 * px} ${12 * px}`" :transform="`translate(${p[0]} ${-p[1]}) rotate(${90 - panel.grain_deg + (k ? 0 : 180)})`" />
    </g>
    <template v-for="(ring, r) in panel.rings" :key="`s${r}`">
      <g v-for="(e, k) in ring" :key="k" class="edge" :class="{ chosen: is(r, k), bare: e.finish !== 'bound' && e.allowance_mm === 0 }" role="button" tabindex="-1" :aria-label="`Edge ${e.name}, ${e.length} ${unit}, ${e.finish} ${e.allowance}`">
        <path :d="e.path" class="seam" :stroke-width="(is(r, k) ? 5.5 : 3.2) * px" />
        <circle v-for="(b, i) in e.beads" :key="i" :cx="b[0]" :cy="-b[1]" :r="4 * px" class="bead" />
        <path :d="e.path" class="hit" :stroke-width="34 * px" @pointerdown.stop @pointerup.stop="$emit('pick', [r, k], $event.shiftKey || $event.ctrlKey || $event.metaKey)" />
      </g>
      <rect v-for="(e, k) in ring" :key="`c${k}`" class="corner" :x="-5.5 * px" :y="-5.5 * px" :width="11 * px" :height="11 * px" :transform="`translate(${e.start[0]} ${-e.start[1]}) rotate(45)`" :stroke-width="2 * px" />
    </template>
    <MeasureTag v-for="t in tags" :key="t.key" :x="t.x" :y="t.y" :px="px" :text="t.text" :chosen="t.chosen" />
  </g>
</template>

<style scoped>
.cloth {
  fill: var(--paper);
}
.band {
  fill: url('#dots');
  stroke: var(--ink);
}
.hem {
  fill: url('#hatch');
}
.lit {
  fill: var(--woad);
  fill-opacity: 0.16;
}
.fold {
  fill: none;
  stroke: var(--woad);
}
.seam {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
}
.bare .seam {
  stroke: var(--madder);
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
.corner {
  fill: var(--paper);
  stroke: var(--ink);
  pointer-events: none;
}
.notch {
  fill: var(--paper);
  stroke: var(--ink);
  pointer-events: none;
}
.label {
  pointer-events: none;
}
.label text {
  fill: var(--ink);
  text-anchor: middle;
}
.label .sub {
  fill: var(--soft-ink);
}
.grain {
  fill: none;
  stroke: var(--ink);
  pointer-events: none;
}
</style>

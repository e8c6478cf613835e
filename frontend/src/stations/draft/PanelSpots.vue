<script setup lang="ts">
import { computed } from 'vue'
import type { Panel, Schemas } from '../../api/client'
import { besideSpot, boundsOf, boxAbout, grown, type Bounds } from '../../logic/labelPlace'
import { onTable, outlineOnTable, upright, type Lie, type TableBox } from '../../logic/lies'
import { AROUND_PX, GRAIN_PX, spotBox, tagBox } from '../../logic/tags'

/** The places that are marked on a panel, each with its words where they have room: clear of lines, of what else is written and of
 * the other panels, and in sight where all of the table is. */
const props = defineProps<{
  panel: Panel
  lie: Lie
  px: number
  marks: readonly Schemas['MarkView'][]
  tags: readonly { x: number; y: number; text: string }[]
  /** Where the panel's name is written, on the table. */
  name: Bounds | null
  boxes: readonly TableBox[]
}>()
const LETTERS = 13
const seen = (p: readonly number[]) => onTable(props.lie, { x: p[0] ?? 0, y: p[1] ?? 0 })
const outline = computed(() => outlineOnTable(props.lie, props.panel.rings[0]))
const circles = computed(() => props.marks.map((m) => spotBox(seen(m.points[0]!), props.px)))
const grain = computed(() => props.panel.draft?.marks?.find((m) => m.kind === 'grain')?.points ?? [])
const spots = computed(() => {
  const { px, boxes, name, tags } = props
  const written = tags.map((t) => tagBox(seen([t.x, -t.y]), t.text, px))
  if (name) written.push(name)
  if (grain.value.length) written.push(grown(boundsOf(grain.value.map(seen)), (GRAIN_PX / 2) * px))
  written.push(...boxes.filter((b) => b.of !== props.panel.name))
  const { low, high } = boundsOf(outline.value)
  const inSight = grown(boundsOf([low, high, ...boxes.flatMap((b) => [b.low, b.high])]), AROUND_PX * px)
  return props.marks.map((m, k) => {
    const words = m.lines?.[0] ?? ''
    const size = { width: 7.2 * words.length * px, height: LETTERS * px }
    const others = [...circles.value.filter((_, j) => j !== k), ...written]
    const spot = seen(m.points[0]!)
    const inward = spot.y < (low.y + high.y) / 2 ? 1 : -1
    const at = words ? besideSpot(outline.value, others, size, spot, 8 * px, inward, inSight) : null
    if (at) written.push(boxAbout({ x: spot.x + at.x, y: spot.y + at.y }, size, 0))
    return { key: `${m.kind}${k}`, kind: m.kind, x: m.points[0]![0] ?? 0, y: -(m.points[0]![1] ?? 0), words, at }
  })
})
</script>

<template>
  <g v-for="m in spots" :key="m.key" class="spot" :transform="upright(lie, m.x, m.y)">
    <circle :r="(m.kind === 'dart_point' ? 3 : 5) * px" :stroke-width="1.6 * px" />
    <path v-if="m.kind === 'button'" :d="`M${-5 * px} 0H${5 * px}`" :stroke-width="1.6 * px" />
    <title v-if="m.words">{{ m.words }}</title>
    <text v-if="m.at" :x="m.at.x" :y="0.36 * LETTERS * px - m.at.y" :font-size="LETTERS * px">{{ m.words }}</text>
  </g>
</template>

<style scoped>
.spot {
  pointer-events: none;
}
.spot circle {
  fill: var(--paper);
  stroke: var(--ink);
}
.spot path {
  stroke: var(--ink);
}
.spot text {
  fill: var(--ink);
  text-anchor: middle;
}
</style>

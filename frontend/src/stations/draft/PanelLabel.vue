<script setup lang="ts">
import { computed, onScopeDispose, watch } from 'vue'
import type { Panel } from '../../api/client'
import { boundsOf, boxAbout, grown, labelBeside, labelPlace, type Bounds } from '../../logic/labelPlace'
import { mapOf, outlineOnTable, upright, type Lie, type TableBox } from '../../logic/lies'
import { GRAIN_PX, tagBox } from '../../logic/tags'
import { carried, inverse, type At } from '../../logic/transform'
import { useLabels } from '../../state/keys'

/** A panel’s name and what is cut of it, written where nothing else is drawn; beside it, with a leader, where it has no room. */
const props = defineProps<{
  panel: Panel
  lie: Lie
  px: number
  tags: readonly { x: number; y: number; text: string }[]
  /** The boxes of all that lies on the table, each by the name of what fills it. */
  boxes: readonly TableBox[]
  /** What stands beside the panel already, on the table. */
  flags: readonly Bounds[]
}>()
const emit = defineEmits<{ written: [box: Bounds | null] }>()
const labels = useLabels()
const OWN = new Set(['label'])
const NAME = { size: 20, wide: 10.6, high: 24 }
/** How much smaller it is written where it has less room. */
const SMALL = 0.7
const LINE = { size: 15, wide: 7.9, high: 20 }
/** How much smaller all of it is where its lines are as small as any are written, 13 px. */
const ALL_SMALL = 13 / LINE.size

const marks = computed(() => props.panel.draft?.marks ?? [])
const label = computed(() => marks.value.find((m) => m.kind === 'label'))
const way = computed(() => mapOf(props.lie))
const seen = (p: readonly number[]): At => carried(way.value, { x: p[0] ?? 0, y: p[1] ?? 0 })
const outline = computed(() => outlineOnTable(props.lie, props.panel.rings[0]))
const drawn = computed<Bounds[]>(() => {
  const tags = props.tags.map((t) => tagBox(seen([t.x, -t.y]), t.text, props.px))
  const holes = props.panel.rings.slice(1).map((ring) => boundsOf(ring.flatMap((e) => [seen(e.start), seen(e.middle)])))
  const others = marks.value
    .filter((m) => !OWN.has(m.kind))
    .flatMap((m) => {
      const at = m.points.map(seen)
      if (m.kind === 'grain') return [grown(boundsOf(at), (GRAIN_PX / 2) * props.px)]
      return at.length === 1 ? [boundsOf(at)] : at.slice(1).map((p, k) => boundsOf([at[k]!, p]))
    })
  return [...tags, ...holes, ...others]
})
const lines = computed(() => label.value?.lines ?? [])
const sizeOf = (count: number, scale: number) => ({
  width: Math.max(...lines.value.slice(0, count).map((line, k) => line.length * (k ? LINE.wide : NAME.wide))) * props.px * scale,
  height: (NAME.high + LINE.high * (count - 1)) * props.px * scale,
})
/** As many of its lines as have room and as large as they have it; else its name beside the panel. */
const written = computed(() => {
  const wanted = label.value?.points[0]
  if (!wanted || !lines.value.length) return null
  const rim = 5 * props.px
  const all = lines.value.length
  const back = (p: At) => carried(inverse(way.value), p)
  for (const [count, scale] of [
    [all, 1],
    [all, ALL_SMALL],
    [1, 1],
    [1, SMALL],
  ] as const) {
    const size = sizeOf(count, scale)
    const at = labelPlace(outline.value, drawn.value, size, seen(wanted), rim)
    if (at) return { at: back(at), string: null, count, scale, high: size.height, box: boxAbout(at, size, 0) }
  }
  const size = sizeOf(1, SMALL)
  const own = props.boxes.findIndex((b) => b.of === props.panel.name)
  // it makes way for those of the panels before its own, which don't for it
  const before = props.boxes.slice(0, Math.max(own, 0)).flatMap((b) => labels.get(b.of) ?? [])
  const others = props.boxes.filter((_, k) => k !== own)
  const at = labelBeside(outline.value, others, [...before, ...props.flags], size, rim)
  if (!at) return null
  const { low, high } = boundsOf(outline.value)
  const string = [
    { x: Math.max(at.x - size.width / 2, Math.min(at.x + size.width / 2, (low.x + high.x) / 2)), y: at.y },
    { x: Math.max(low.x, Math.min(high.x, at.x)), y: Math.max(low.y, Math.min(high.y, at.y)) },
  ].map(back)
  return { at: back(at), string, count: 1, scale: SMALL, high: size.height, box: boxAbout(at, size, 0) }
})
watch(
  written,
  (now) => {
    emit('written', now?.box ?? null)
    if (now?.string) labels.set(props.panel.name, now.box)
    else labels.delete(props.panel.name)
  },
  { immediate: true },
)
onScopeDispose(() => labels.delete(props.panel.name))
</script>

<template>
  <g v-if="written" class="label">
    <line
      v-if="written.string"
      :x1="written.string[0]!.x"
      :y1="-written.string[0]!.y"
      :x2="written.string[1]!.x"
      :y2="-written.string[1]!.y"
      :stroke-width="1.2 * px"
    />
    <g :transform="upright(lie, written.at.x, -written.at.y)">
      <text :font-size="NAME.size * px * written.scale" font-weight="700" :y="18 * px * written.scale - written.high / 2">
        {{ lines[0] }}
      </text>
      <text
        v-for="(line, k) in lines.slice(1, written.count)"
        :key="k"
        class="sub"
        :font-size="LINE.size * px * written.scale"
        :y="(NAME.high + 14 + LINE.high * k) * px * written.scale - written.high / 2"
        >{{ line }}</text
      >
    </g>
  </g>
</template>

<style scoped>
.label {
  pointer-events: none;
}
text {
  fill: var(--ink);
  text-anchor: middle;
}
.sub {
  fill: var(--soft-ink);
}
line {
  stroke: var(--soft-ink);
}
</style>

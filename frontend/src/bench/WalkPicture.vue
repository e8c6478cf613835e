<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

/** Both sides of a join laid against each other, true to one scale: edges, notches, and where the difference sits. */
const props = defineProps<{ walk: Schemas['WalkView']; wrong: boolean }>()
const WIDE = 300
const FIRST = { top: 20, bottom: 36, inner: 36 }
const SECOND = { top: 74, bottom: 90, inner: 74 }
// a difference too small to be seen is drawn as wide as this
const LEAST = 4

const longest = computed(() => Math.max(...props.walk.sides.map((s) => s.length)))
const at = (mm: number) => (mm / longest.value) * WIDE
const sides = computed(() =>
  props.walk.sides.map((side, k) => {
    const row = k ? SECOND : FIRST
    const way = k ? 1 : -1
    return {
      ...{ panels: side.panels, row, end: at(side.length), stops: side.stops.map(at), text: k ? 105 : 14 },
      notches: side.notches.flatMap(([mm, double]) =>
        (double ? [-3, 3] : [0]).map((off) => `M${at(mm) + off - 3} ${row.inner} l3 ${6 * way} l3 ${-6 * way} Z`),
      ),
    }
  }),
)
const alike = computed(() => props.walk.sides[0].notches.length === props.walk.sides[1].notches.length)
/** The lines that lead from each place on the first side to its mate on the second, with what is between two of them. */
const ties = computed(() => {
  const places = props.walk.sides.map((s) => [0, ...(alike.value ? s.notches.map(([mm]) => mm) : []), s.length].map(at))
  return places[0]!.map((x, k) => [x, places[1]![k]!] as const)
})
const between = computed(() =>
  props.walk.apart.map((text, k) => {
    const ends = [...ties.value[k]!, ...ties.value[k + 1]!]
    return { text, x: Math.min(Math.max(ends.reduce((a, b) => a + b) / 4, 22), WIDE - 22) }
  }),
)
const over = computed(() => {
  const [one, other] = sides.value.map((s) => s.end) as [number, number]
  if (!props.walk.apart.some((text) => text)) return null
  const row = one > other ? FIRST : SECOND
  const wide = Math.max(Math.abs(one - other), LEAST)
  return { x: WIDE - wide, y: row.top, wide }
})
</script>

<template>
  <svg
    :viewBox="`-4 0 ${WIDE + 8} 112`"
    :class="{ wrong }"
    role="img"
    :aria-label="`${walk.sides[0].panels} laid against ${walk.sides[1].panels}`"
  >
    <path v-for="([a, b], k) in ties" :key="k" class="tie" :d="`M${a} ${FIRST.bottom} L${b} ${SECOND.top}`" />
    <g v-for="(s, k) in sides" :key="k">
      <rect class="cloth" x="0" :y="s.row.top" :width="s.end" height="16" />
      <path v-for="x in s.stops" :key="x" class="stop" :d="`M${x} ${s.row.top} v16`" />
      <path v-for="d in s.notches" :key="d" class="notch" :d="d" />
      <text x="0" :y="s.text">{{ s.panels }}</text>
    </g>
    <rect v-if="over" class="over" :x="over.x" :y="over.y" :width="over.wide" height="16" />
    <template v-for="(b, k) in between" :key="k">
      <text v-if="b.text" class="apart" :x="b.x" y="59">{{ b.text }}</text>
    </template>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
}
.cloth {
  fill: var(--cloth, var(--paper));
  stroke: var(--ink);
  stroke-width: 1.2;
}
.stop {
  stroke: var(--soft-ink);
  stroke-dasharray: 2 2;
}
.notch {
  fill: var(--ink);
}
.tie {
  stroke: var(--soft-ink);
  stroke-width: 0.8;
}
.over {
  fill: var(--woad);
}
.wrong .over {
  fill: var(--madder);
}
text {
  fill: var(--ink);
  font-size: 13px;
}
.apart {
  fill: var(--woad);
  font-weight: 700;
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.wrong .apart {
  fill: var(--madder);
}
</style>

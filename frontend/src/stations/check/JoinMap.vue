<script setup lang="ts">
import { computed } from 'vue'
import { mapOfJoins } from '../../logic/joinMap'
import { useOpenJob } from '../../state/keys'

/** The panels side by side, each join a line from one of its edges to the other, with its letter: for covers that can’t be put
 * together in space. */
const { job } = useOpenJob()
const map = computed(() => mapOfJoins(job.value?.panels ?? [], job.value?.joins ?? []))
</script>

<template>
  <svg
    :viewBox="map.box.join(' ')"
    class="map"
    role="img"
    :aria-label="`${map.ties.length} joins between ${map.panels.length} panels, flat`"
  >
    <g v-for="p in map.panels" :key="p.id" :transform="p.transform">
      <path v-for="d in p.rings" :key="d" :d="d" class="seam" :stroke-width="1.5 * map.px" />
    </g>
    <g v-for="t in map.ties" :key="t.id" :class="{ wrong: t.wrong }">
      <path :d="t.path" class="tie" :stroke-width="1.6 * map.px" :stroke-dasharray="`${5 * map.px} ${3 * map.px}`" />
      <circle v-for="([x, y], k) in t.ends" :key="k" :cx="x" :cy="y" :r="3 * map.px" />
      <rect
        :x="t.flag[0] - (5 + 4 * t.letter.length) * map.px"
        :y="t.flag[1] - 10 * map.px"
        :width="(10 + 8 * t.letter.length) * map.px"
        :height="20 * map.px"
        :rx="3 * map.px"
      />
      <text :x="t.flag[0]" :y="t.flag[1] + 5 * map.px" :font-size="14 * map.px">{{ t.letter }}</text>
    </g>
    <text v-for="p in map.panels" :key="p.id" class="name" :x="p.middle[0]" :y="p.middle[1]" :font-size="13 * map.px">{{ p.name }}</text>
  </svg>
</template>

<style scoped>
.map {
  width: 100%;
  height: 340px;
  border: 1px solid var(--hairline);
  border-radius: 8px;
  background: var(--table);
}
.seam {
  fill: var(--paper);
  stroke: var(--ink);
}
.tie {
  fill: none;
  stroke: var(--woad);
}
circle {
  fill: var(--woad);
}
rect {
  fill: var(--tape-filled);
}
text {
  text-anchor: middle;
  font-weight: 700;
  fill: var(--tape-ink);
}
.name {
  font-weight: 400;
  fill: var(--ink);
}
.wrong .tie {
  stroke: var(--madder);
}
.wrong circle {
  fill: var(--madder);
}
</style>

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { mapOfJoins, writtenOn } from '../../logic/joinMap'
import { pixelOf } from '../../logic/viewport'
import { useOpenJob } from '../../state/keys'

/** The panels side by side, each join a line from one of its edges to the other, with its letter: for covers that can’t be put
 * together in space. */
const { job } = useOpenJob()
const map = computed(() => mapOfJoins(job.value?.panels ?? [], job.value?.joins ?? []))
const drawing = useTemplateRef<SVGSVGElement>('drawing')
const shown = useElementSize(drawing, { width: 800, height: 340 })
const px = computed(() =>
  pixelOf({ width: map.value.box[2], height: map.value.box[3] }, { width: shown.width.value, height: shown.height.value }),
)
const written = computed(() => writtenOn(map.value, px.value))
</script>

<template>
  <svg
    ref="drawing"
    :viewBox="map.box.join(' ')"
    class="map"
    role="img"
    :aria-label="`${map.ties.length} joins between ${map.panels.length} panels, flat`"
  >
    <g v-for="p in map.panels" :key="p.id" :transform="p.transform">
      <path v-for="d in p.rings" :key="d" :d="d" class="seam" :stroke-width="1.5 * px" />
    </g>
    <g v-for="t in map.ties" :key="t.id" :class="{ wrong: t.wrong }">
      <path :d="t.path" class="tie" :stroke-width="1.6 * px" :stroke-dasharray="`${5 * px} ${3 * px}`" />
      <circle v-for="({ x, y }, k) in t.ends" :key="k" :cx="x" :cy="-y" :r="3 * px" />
    </g>
    <g v-for="({ at, size }, k) in written.flags" :key="k" :transform="`translate(${at.x} ${-at.y})`">
      <rect :x="-size.width / 2" :y="-size.height / 2" :width="size.width" :height="size.height" :rx="3 * px" />
      <text :y="5 * px" :font-size="14 * px">{{ map.ties[k]?.letter }}</text>
    </g>
    <template v-for="(at, k) in written.names" :key="k">
      <text v-if="at" class="name" :x="at.x" :y="4.5 * px - at.y" :font-size="13 * px" :stroke-width="3 * px">
        {{ map.panels[k]?.name }}
      </text>
    </template>
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
  stroke: var(--table);
  paint-order: stroke;
}
.wrong .tie {
  stroke: var(--madder);
}
.wrong circle {
  fill: var(--madder);
}
</style>

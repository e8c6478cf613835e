<script setup lang="ts">
import { ringPath } from '../../logic/rings'
import { computed } from 'vue'
import type { Panel, Schemas } from '../../api/client'

/** Where on its panel something was found: the edge, or the point. */
const props = defineProps<{ panel: Panel; place: Schemas['Place'] }>()
const MARGIN = 0.06
const box = computed(() => {
  const [x = 0, y = 0, w = 1, h = 1] = props.panel.box
  const around = Math.max(w, h) * MARGIN
  return { view: `${x - around} ${-y - h - around} ${w + 2 * around} ${h + 2 * around}`, px: Math.max(w / 120, h / 80) }
})
const rings = computed(() => props.panel.rings.map(ringPath))
const edges = computed(() =>
  props.panel.rings.flat().filter((e) => props.place.edge && (e.own_name === props.place.edge || e.name === props.place.edge)),
)
</script>

<template>
  <svg :viewBox="box.view" width="120" height="80" aria-hidden="true">
    <path v-for="d in rings" :key="d" :d="d" class="seam" :stroke-width="1.4 * box.px" />
    <path v-for="e in edges" :key="e.path" :d="e.path" class="here" :stroke-width="4 * box.px" />
    <circle v-if="place.point" class="at" :cx="place.point[0]" :cy="-(place.point[1] ?? 0)" :r="5 * box.px" :stroke-width="2 * box.px" />
  </svg>
</template>

<style scoped>
.seam {
  fill: var(--paper);
  stroke: var(--ink);
}
.here {
  fill: none;
  stroke: var(--madder);
  stroke-linecap: round;
}
.at {
  fill: none;
  stroke: var(--madder);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { thinPath } from '../../logic/thinPath'
import { useShapeBench } from '../../state/keys'

/** What lies under the finger, three times as large, where the finger doesn't cover it. */
const props = defineProps<{ at: { x: number; y: number }; px: number; src: string; placed: Schemas['PlacedPhoto'] }>()
const { shape } = useShapeBench().table
const SIZE = 150
const reach = computed(() => (SIZE / 2 / 3) * props.px)
const traces = computed(() => shape.value?.rings.map((ring) => thinPath(ring.trace, 0.1 * props.px)) ?? [])
const viewBox = computed(() => `${props.at.x - reach.value} ${-props.at.y - reach.value} ${2 * reach.value} ${2 * reach.value}`)
</script>

<template>
  <svg class="loupe" :viewBox="viewBox" :width="SIZE" :height="SIZE" aria-hidden="true">
    <image
      :href="src"
      :x="placed.box[0]"
      :y="-placed.box[1] - placed.box[3]"
      :width="placed.box[2]"
      :height="placed.box[3]"
      preserveAspectRatio="none"
    />
    <path v-for="(trace, r) in traces" :key="r" :d="trace" class="trace" :stroke-width="0.6 * px" />
    <path :d="`M${at.x - 5 * px} ${-at.y} h${10 * px} M${at.x} ${-at.y - 5 * px} v${10 * px}`" class="cross" :stroke-width="0.5 * px" />
  </svg>
</template>

<style scoped>
.loupe {
  position: absolute;
  left: 14px;
  top: 14px;
  border-radius: 50%;
  border: 3px solid var(--paper);
  background: var(--table);
  box-shadow: 0 2px 10px #1f2d2b55;
  pointer-events: none;
}
.trace {
  fill: none;
  stroke: #f0d27a;
}
.cross {
  stroke: #fff;
}
</style>

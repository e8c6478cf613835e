<script setup lang="ts">
import { computed } from 'vue'
import { TAG_HEIGHT, tagWidth } from '../logic/tags'

/** A round-ended tag that hangs on the work, of constant size on the screen. */
const props = defineProps<{ x: number; y: number; px: number; text: string; chosen?: boolean; plain?: boolean }>()
const width = computed(() => tagWidth(props.text) * props.px)
const high = computed(() => TAG_HEIGHT * props.px)
</script>

<template>
  <g class="tag" :class="{ chosen, plain }" :transform="`translate(${x} ${y})`">
    <rect :x="-width / 2" :y="-high / 2" :width="width" :height="high" :rx="high / 2" :stroke-width="1.2 * px" />
    <text :font-size="15 * px" :y="5.2 * px">{{ text }}</text>
  </g>
</template>

<style scoped>
.tag {
  pointer-events: none;
}
rect {
  fill: var(--paper);
  stroke: var(--ink);
}
text {
  fill: var(--ink);
  text-anchor: middle;
  font-weight: 600;
}
.chosen rect {
  fill: var(--woad-pale);
  stroke: var(--woad);
}
.plain rect {
  stroke: none;
}
</style>

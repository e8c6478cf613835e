<script setup lang="ts">
/** A round-ended tag that hangs on the work, of constant size on the screen. */
const props = defineProps<{ x: number; y: number; px: number; text: string; chosen?: boolean; plain?: boolean }>()
const width = () => (props.text.length * 8.4 + 24) * props.px
</script>

<template>
  <g class="tag" :class="{ chosen, plain }" :transform="`translate(${x} ${y})`">
    <rect :x="-width() / 2" :y="-14 * px" :width="width()" :height="28 * px" :rx="14 * px" :stroke-width="1.2 * px" />
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

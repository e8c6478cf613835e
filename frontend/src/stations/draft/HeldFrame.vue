<script setup lang="ts">
/** The dashed frame round what is held: `box` is its lower left corner, width and height, mm, y up. */
defineProps<{ box: readonly [number, number, number, number]; px: number }>()
</script>

<template>
  <rect
    :x="box[0]"
    :y="-box[1] - box[3]"
    :width="box[2]"
    :height="box[3]"
    :stroke-width="2 * px"
    :stroke-dasharray="`${8 * px} ${5 * px}`"
  />
</template>

<style scoped>
rect {
  fill: none;
  stroke: var(--woad);
  pointer-events: none;
}
</style>

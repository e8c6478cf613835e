<script setup lang="ts">
import { computed } from 'vue'
import type { At } from '../logic/transform'
import { useTablePart } from '../state/keys'

/** A drawing of its own on the table, in mm with y down; one that is `lifted` lies on top and moves without being drawn anew. */
const props = defineProps<{
  lifted?: boolean
  /** How far it was moved from where it is drawn, mm, y up. */
  shift?: At | null
}>()
const { viewBox, px } = useTablePart()
const moved = computed(() => props.shift && { transform: `translate(${props.shift.x / px.value}px, ${-props.shift.y / px.value}px)` })
</script>

<template>
  <svg class="drawing" :class="{ lifted }" :viewBox="viewBox" :style="moved" preserveAspectRatio="xMinYMin meet">
    <g><slot /></g>
  </svg>
</template>

<style scoped>
.drawing {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
  /* what lies under its bare places is pointed at through them */
  pointer-events: none;
}
.drawing > g {
  pointer-events: auto;
}
.lifted {
  z-index: 1;
  will-change: transform;
}
</style>

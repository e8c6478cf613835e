<script setup lang="ts">
import { CLOTH_PICTURES, type ClothPicture } from './clothPictures'

/** A small picture of folded cloth, of a corner, or of what is put on a panel. */
const props = defineProps<{ kind: string }>()
const picture = (): ClothPicture => CLOTH_PICTURES[props.kind] ?? { cloth: [] }
</script>

<template>
  <svg viewBox="0 0 60 30" width="60" height="30" aria-hidden="true">
    <path v-for="d in picture().cut" :key="d" :d="d" class="cut" />
    <path v-for="d in picture().cloth" :key="d" :d="d" class="cloth" />
    <path v-for="d in picture().fold" :key="d" :d="d" class="fold" />
    <path v-for="d in picture().work" :key="d" :d="d" class="work" />
    <circle v-for="[x, y] in picture().dots" :key="x" :cx="x" :cy="y" r="3.4" class="dot" />
  </svg>
</template>

<style scoped>
path {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.cloth {
  stroke: var(--ink);
  stroke-width: 2.6px;
}
.cut {
  stroke: var(--soft-ink);
  stroke-width: 1.6px;
}
.work {
  stroke: var(--madder);
  stroke-width: 2.6px;
}
.fold {
  stroke: var(--woad);
  stroke-width: 1.8px;
  stroke-dasharray: 3 3;
}
.dot {
  fill: var(--madder);
}
</style>

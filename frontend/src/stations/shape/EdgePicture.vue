<script setup lang="ts">
/** What an edge is made of the dots of its trace, drawn for this application. */
defineProps<{ kind: string }>()
const WAYS: Record<string, string> = {
  line: 'M4 20L44 8',
  arc: 'M4 22Q22 -6 44 18',
  curve: 'M4 20C14 0 22 26 30 12S40 10 44 6',
  auto: 'M4 22L18 22Q34 22 44 6',
}
const DOTS: Record<string, [number, number][]> = {
  line: [
    [8, 21],
    [18, 14],
    [28, 14],
    [38, 8],
  ],
  arc: [
    [8, 14],
    [18, 9],
    [28, 7],
    [38, 13],
  ],
  curve: [
    [8, 13],
    [18, 11],
    [26, 16],
    [36, 10],
  ],
  auto: [
    [8, 23],
    [16, 21],
    [28, 20],
    [38, 13],
  ],
}
</script>

<template>
  <svg viewBox="0 0 48 28" width="48" height="28" aria-hidden="true">
    <circle v-for="[x, y] in DOTS[kind]" :key="x" :cx="x" :cy="y" r="1.8" />
    <path :d="WAYS[kind]" />
  </svg>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
  stroke-linecap: round;
}
circle {
  fill: var(--madder);
}
</style>

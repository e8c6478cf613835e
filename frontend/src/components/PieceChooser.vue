<script setup lang="ts">
import type { Photo } from '../api/client'
import { useOpenJob } from '../state/keys'

defineProps<{ photo: Photo }>()
const state = useOpenJob()

function middle(ring: readonly (readonly number[])[]) {
  const xs = ring.map((p) => p[0] ?? 0)
  const ys = ring.map((p) => p[1] ?? 0)
  return { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 }
}
</script>

<template>
  <section class="chooser" aria-label="Choose a piece">
    <svg :viewBox="`0 0 ${photo.width} ${photo.height_px}`">
      <image :href="`/api/photos/${photo.id}/preview.jpg`" :width="photo.width" :height="photo.height_px" />
      <g v-for="(ring, k) in photo.outlines_px" :key="k" role="button" tabindex="0" :aria-label="`Piece ${k + 1}`" @click="state.choosePiece(photo.id, k)" @keydown.enter="state.choosePiece(photo.id, k)">
        <polygon :points="ring.map((p) => p.join(',')).join(' ')" :stroke-width="photo.width / 240" />
        <circle :cx="middle(ring).x" :cy="middle(ring).y" :r="photo.width / 40" />
        <text :x="middle(ring).x" :y="middle(ring).y + photo.width / 75" :font-size="photo.width / 26">{{ k + 1 }}</text>
      </g>
    </svg>
    <p>{{ photo.sentence }}</p>
  </section>
</template>

<style scoped>
.chooser {
  position: relative;
  background: var(--table);
  border-radius: 8px;
  overflow: hidden;
  min-height: 0;
  display: grid;
}
svg {
  width: 100%;
  height: 100%;
  min-height: 0;
}
g {
  cursor: pointer;
}
polygon {
  fill: #7cc4f244;
  stroke: #fff;
}
g:hover polygon,
g:focus-visible polygon {
  fill: #7cc4f299;
}
circle {
  fill: #1f2d2b;
}
text {
  fill: #fff;
  text-anchor: middle;
  font-weight: 700;
}
p {
  position: absolute;
  left: 50%;
  top: 18px;
  translate: -50% 0;
  padding: 10px 20px;
  border-radius: 22px;
  background: var(--paper);
  font-weight: 600;
}
</style>

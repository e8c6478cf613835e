<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Photo } from '../api/client'
import { useOpenJob } from '../state/keys'

/** The pieces on a photo: one is pointed at, or several are named. */
const props = defineProps<{ photo: Photo }>()
const emit = defineEmits<{ leave: [] }>()
const state = useOpenJob()
const names = reactive<string[]>([])
watch(() => `${props.photo.id} ${props.photo.outlines_px.length}`, () => names.splice(0, names.length, ...props.photo.outlines_px.map(() => '')), { immediate: true })
const named = computed(() => names.filter((n) => n.trim()).length)
/** Pointing gives a piece its number for a name, and takes it away again. */
function point(k: number) {
  names[k] = names[k] ? '' : `piece ${k + 1}`
}

function middle(ring: readonly (readonly number[])[]) {
  const xs = ring.map((p) => p[0] ?? 0)
  const ys = ring.map((p) => p[1] ?? 0)
  return { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 }
}
</script>

<template>
  <section class="chooser" aria-label="Choose a piece">
    <svg :viewBox="`0 0 ${photo.width} ${photo.height_px}`">
      <image :href="`/api/photos/${photo.id}/chooser.jpg`" :width="photo.width" :height="photo.height_px" />
      <g v-for="(ring, k) in photo.outlines_px" :key="k" role="button" tabindex="0" :aria-label="`Piece ${k + 1}`" :aria-pressed="!!names[k]" :class="{ on: names[k] }" @click="point(k)" @keydown.enter="point(k)" @keydown.space.prevent="point(k)">
        <polygon :points="ring.map((p) => p.join(',')).join(' ')" :stroke-width="photo.width / 240" />
        <circle :cx="middle(ring).x" :cy="middle(ring).y" :r="photo.width / 40" />
        <text :x="middle(ring).x" :y="middle(ring).y + photo.width / 75" :font-size="photo.width / 26">{{ k + 1 }}</text>
      </g>
    </svg>
    <form @submit.prevent="state.choosePieces(photo.id, names)">
      <p>{{ photo.sentence }}</p>
      <ul v-if="named"><template v-for="(_, k) in names" :key="k"><li v-if="names[k]"><label>{{ k + 1 }} is called <input v-model="names[k]" class="typed" maxlength="80" /></label></li></template></ul>
      <div class="row"><v-btn v-if="named" type="submit" color="primary" variant="flat">{{ named === 1 ? 'Take this piece' : `Take these ${named}` }}</v-btn><v-btn variant="text" @click="emit('leave')">Not now</v-btn></div>
    </form>
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
g.on polygon,
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
form {
  position: absolute;
  left: 50%;
  top: 18px;
  translate: -50% 0;
  padding: 10px 20px;
  border-radius: 18px;
  background: var(--paper);
  display: grid;
  gap: 8px;
  justify-items: start;
}
p {
  font-weight: 600;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.typed {
  width: 150px;
}
</style>

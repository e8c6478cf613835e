<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import type { Photo } from '../../api/client'
import { middleOf, nudged } from '../../logic/pointing'
import { pixelOf } from '../../logic/viewport'
import { useOpenJob } from '../../state/keys'
import ToggleButton from '../../ui/ToggleButton.vue'
import InlineField from '../../ui/InlineField.vue'

/** The photo, to be pointed at: at one of the pieces that were told apart on it, or at any place that is piece or isn't. */
const props = defineProps<{ photo: Photo }>()
const emit = defineEmits<{ leave: [] }>()
const state = useOpenJob()
type At = [number, number]
const names = reactive<string[]>([])
const taps = reactive<Record<'piece' | 'table', At[]>>({ piece: [], table: [] })
const means = ref<'piece' | 'table'>('piece')
const pin = ref<At | null>(null)
const picture = ref<SVGSVGElement | null>(null)
const shown = useElementSize(picture, { width: 800, height: 600 })
/** How many of the photo's pixels one of the screen's is. */
const px = computed(() =>
  pixelOf({ width: props.photo.width, height: props.photo.height_px }, { width: shown.width.value, height: shown.height.value }),
)
const several = computed(() => (props.photo.status === 'choose' ? props.photo.outlines_px : []))
watch(
  () => `${props.photo.id} ${several.value.length}`,
  () => {
    names.splice(0, names.length, ...several.value.map(() => ''))
    taps.piece.length = taps.table.length = 0
  },
  { immediate: true },
)
const named = computed(() => names.filter((n) => n.trim()).length)
const tapped = computed(() => taps.piece.length + taps.table.length)

/** Pointing gives a piece its number for a name, and takes it away again. */
function point(k: number) {
  names[k] = names[k] ? '' : `piece ${k + 1}`
}
function tap(at: At) {
  taps[means.value].push(at)
}
function clicked(e: MouseEvent) {
  const to = picture.value?.getScreenCTM()?.inverse()
  if (!to) return
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(to)
  const at: At = [p.x / props.photo.width, p.y / props.photo.height_px]
  if (at.every((v) => v >= 0 && v <= 1)) tap(at)
}
function key(e: KeyboardEvent) {
  if (e.key === 'Enter' && pin.value) tap([...pin.value])
  else pin.value = nudged(pin.value ?? [0.5, 0.5], e.key, e.shiftKey ? 0.1 : 0.02) ?? pin.value
}
function back() {
  const from = taps.table.length ? taps.table : taps.piece
  from.pop()
}
async function measure() {
  await state.pointAt(props.photo.id, { piece: [...taps.piece], table: [...taps.table] })
  emit('leave')
}
</script>

<template>
  <section class="pointer" aria-label="Point at the piece">
    <svg
      ref="picture"
      :viewBox="`0 0 ${photo.width} ${photo.height_px}`"
      tabindex="0"
      role="application"
      aria-label="The photo. Arrow keys move a pin, Enter sets it."
      @click="clicked"
      @keydown="key"
    >
      <image
        :href="several.length ? `/api/photos/${photo.id}/chooser.jpg` : `/api/photos/${photo.id}/preview.jpg`"
        :width="photo.width"
        :height="photo.height_px"
      />
      <g
        v-for="(ring, k) in several"
        :key="k"
        class="choice"
        role="button"
        tabindex="0"
        :aria-label="`Piece ${k + 1}`"
        :aria-pressed="!!names[k]"
        :class="{ on: names[k] }"
        @click.stop="point(k)"
        @keydown.enter.stop="point(k)"
        @keydown.space.prevent.stop="point(k)"
      >
        <polygon :points="ring.map((p) => p.join(',')).join(' ')" :stroke-width="3 * px" />
        <circle :cx="middleOf(ring).x" :cy="middleOf(ring).y" :r="18 * px" />
        <text :x="middleOf(ring).x" :y="middleOf(ring).y + 7 * px" :font-size="20 * px">{{ k + 1 }}</text>
      </g>
      <template v-for="(places, what) in taps" :key="what">
        <g
          v-for="([x, y], k) in places"
          :key="k"
          class="tap"
          :class="what"
          :transform="`translate(${x * photo.width} ${y * photo.height_px}) scale(${px})`"
        >
          <circle r="16" />
          <path v-if="what === 'table'" d="M-7-7 7 7M-7 7 7-7" />
          <path v-else d="M-8 0-2 7 9-6" />
        </g>
      </template>
      <g v-if="pin" class="pin" :transform="`translate(${pin[0] * photo.width} ${pin[1] * photo.height_px}) scale(${px})`">
        <path d="M-26 0H26M0-26V26" />
      </g>
    </svg>
    <form @submit.prevent="tapped ? measure() : state.choosePieces(photo.id, names)">
      <p>{{ several.length ? photo.sentence : 'Point at the piece. One place is usually enough.' }}</p>
      <div class="row" role="group" aria-label="What you point at">
        <ToggleButton :on="means === 'piece'" @click="means = 'piece'">This is the piece</ToggleButton>
        <ToggleButton :on="means === 'table'" @click="means = 'table'">This isn’t</ToggleButton>
      </div>
      <ul v-if="named && !tapped">
        <template v-for="(_, k) in names" :key="k"
          ><li v-if="names[k]">
            <label>{{ k + 1 }} is called <InlineField words v-model="names[k]" maxlength="80" /></label></li
        ></template>
      </ul>
      <div class="row">
        <v-btn v-if="tapped" type="submit" color="primary" variant="flat">Measure it</v-btn>
        <v-btn v-else-if="named" type="submit" color="primary" variant="flat">{{
          named === 1 ? 'Use this piece' : `Use these ${named}`
        }}</v-btn>
        <v-btn v-if="tapped" @click="back">Undo the last one</v-btn>
        <v-btn variant="text" @click="emit('leave')">Not now</v-btn>
      </div>
    </form>
  </section>
</template>

<style scoped>
.pointer {
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
  cursor: crosshair;
  outline: none;
}
svg:focus-visible {
  outline: 3px solid var(--woad);
  outline-offset: -3px;
}
.choice {
  cursor: pointer;
}
polygon {
  fill: #7cc4f244;
  stroke: #fff;
}
.choice:hover polygon,
.choice.on polygon,
.choice:focus-visible polygon {
  fill: #7cc4f299;
}
.choice circle {
  fill: #1f2d2b;
}
text {
  fill: #fff;
  text-anchor: middle;
  font-weight: 700;
}
.tap circle {
  stroke: #fff;
  stroke-width: 3;
}
.tap.piece circle {
  fill: #275a7b;
}
.tap.table circle {
  fill: #a23b2c;
}
.tap path,
.pin path {
  fill: none;
  stroke: #fff;
  stroke-width: 4;
  pointer-events: none;
}
form {
  position: absolute;
  left: 50%;
  top: 18px;
  translate: -50% 0;
  padding: 10px 20px;
  border-radius: 18px;
  background: var(--paper);
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  width: max-content;
  max-width: min(430px, calc(100% - 24px));
}
form > p,
form > ul {
  flex-basis: 100%;
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
/* there it would lie over what is pointed at */
@media (max-width: 900px) {
  .pointer {
    grid-template-rows: auto minmax(0, 1fr);
  }
  form {
    position: static;
    grid-row: 1;
    translate: none;
    width: auto;
    max-width: none;
    padding: 8px 12px;
    border-radius: 0;
  }
  svg {
    grid-row: 2;
  }
}
</style>

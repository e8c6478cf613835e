<script setup lang="ts">
import { computed } from 'vue'
import { useOpenJob, useShapeBench } from '../../state/keys'
import ToggleButton from '../../ui/ToggleButton.vue'

/** What a hand is doing on the photo, and how it is taken or left. */
const state = useOpenJob()
const { hand, table } = useShapeBench()
const { mode, brush, width, strokes, points, closed, way, unseen, busy } = hand
const SIZES = [3, 8, 20] as const
const words = computed(() => {
  if (mode.value === 'paint') return strokes.value.length ? 'More strokes, or mend it.' : 'Paint over what is wrong: a few strokes will do.'
  if (unseen.value.length) return 'No edge shows along the dotted parts. Points set closer together there make it surer.'
  if (closed.value) return 'All the way round.'
  if (points.value.length < 2)
    return table.shape.value
      ? 'Point on the outline where it is still right, then along the true edge, and back onto the outline.'
      : 'Point at places along the edge, all the way round.'
  return 'Go on along the edge, or use it.'
})
</script>

<template>
  <div v-if="mode" class="part" role="group" aria-label="By hand">
    <h2>{{ mode === 'paint' ? 'Paint' : 'Walk the edge' }}</h2>
    <p role="status">{{ words }}</p>
    <div class="row">
      <template v-if="mode === 'paint'">
        <ToggleButton :on="brush === 'piece'" @click="brush = 'piece'"><i class="dot piece" />this is piece</ToggleButton>
        <ToggleButton :on="brush === 'table'" @click="brush = 'table'"><i class="dot table" />this is table</ToggleButton>
        <span class="sizes" role="group" aria-label="How wide the brush is">
          <button
            v-for="s in SIZES"
            :key="s"
            type="button"
            :class="{ on: width === s }"
            :aria-pressed="width === s"
            :aria-label="`${state.typed(s)} ${state.job.value?.unit}`"
            @click="width = s"
          >
            <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
              <circle cx="12" cy="12" :r="2 + s / 2.4" fill="currentColor" />
            </svg>
          </button>
        </span>
      </template>
      <v-btn v-else-if="points.length > 2 && !closed" @click="hand.close">Round to the start</v-btn>
      <v-btn :disabled="!(strokes.length || points.length)" @click="hand.back">{{
        mode === 'paint' ? 'Undo the last stroke' : 'Undo the last point'
      }}</v-btn>
      <v-btn
        color="primary"
        variant="flat"
        :loading="busy"
        :disabled="mode === 'paint' ? !strokes.length : !way.length"
        @click="hand.take"
        >{{ mode === 'paint' ? 'Mend it' : 'Use this edge' }}</v-btn
      >
      <v-btn variant="text" @click="hand.stop">Done</v-btn>
    </div>
  </div>
</template>

<style scoped>
.dot {
  width: 14px;
  height: 14px;
  margin-right: 8px;
  border-radius: 50%;
  border: 1.5px solid var(--ink);
}
.dot.piece {
  background: #7cc4f2;
}
.dot.table {
  background: #ffb09f;
}
.sizes {
  display: flex;
}
.sizes button {
  width: 44px;
  height: 44px;
  display: grid;
  place-items: center;
  border: 0;
  border-radius: 8px;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.sizes .on {
  background: var(--woad-pale);
  outline: 2px solid var(--woad);
}
</style>

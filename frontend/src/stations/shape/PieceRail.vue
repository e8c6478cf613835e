<script setup lang="ts">
import { computed } from 'vue'
import { useOpenJob, useShapeBench } from '../../state/keys'

/** The captured pieces of the job, to lay one or another on the table. */
const { job } = useOpenJob()
const { work } = useShapeBench()
const pieces = computed(() => job.value?.pieces ?? [])
const open = computed(() => job.value?.open_piece ?? '')
const view = ([x, y, w, h]: readonly [number, number, number, number]) => `${x} ${-y - h} ${w} ${h}`
</script>

<template>
  <nav v-if="pieces.length" class="rail" aria-label="Pieces">
    <button
      v-for="p in pieces"
      :key="p.id"
      type="button"
      class="choice"
      :class="{ on: p.id === open }"
      :aria-current="p.id === open"
      @click="p.id !== open && work.openPiece(p.id)"
    >
      <svg :viewBox="view(p.box)" width="30" height="26" aria-hidden="true"><path :d="p.path" /></svg>{{ p.name }}
    </button>
    <button type="button" class="choice" :class="{ on: !open }" :aria-current="!open" @click="open && work.newPiece()">
      + another piece
    </button>
  </nav>
</template>

<style scoped>
.rail {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  padding-bottom: 8px;
}
.choice {
  white-space: nowrap;
}
path {
  fill: currentColor;
  fill-opacity: 0.25;
  stroke: currentColor;
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
</style>

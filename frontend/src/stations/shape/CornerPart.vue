<script setup lang="ts">
import { computed } from 'vue'
import { useShapeBench } from '../../state/keys'

/** What is done at the chosen corner. */
const { work, table } = useShapeBench()
const { chosen, corner } = table
const outer = computed(() => chosen.value?.ring === 0)
const PARTS = { 2: 'Halves', 4: 'Quarters', 8: 'Eighths', 0: 'No marks' } as const
</script>

<template>
  <div v-if="corner && chosen" class="part">
    <div class="row between">
      <h2>Corner {{ corner.letter }}</h2>
      <span class="soft small">{{ corner.smooth ? 'runs on smoothly' : 'sharp' }}</span>
    </div>
    <p class="soft">Drag it, or nudge it with the arrow keys (Shift for more).</p>
    <div class="row">
      <v-btn @click="work.square(chosen.ring, chosen.corner!)">Make it square</v-btn>
      <v-btn color="error" @click="table.removeCorner">Remove it</v-btn>
    </div>
    <div v-if="outer" class="part" role="group" aria-label="Mark parts of the way round from here">
      <h3>Mark the way round from here</h3>
      <div class="row">
        <v-btn v-for="parts in [2, 4, 8, 0] as const" :key="parts" size="small" height="44" @click="work.divide(chosen.corner!, parts)">{{
          PARTS[parts]
        }}</v-btn>
      </div>
    </div>
  </div>
</template>

<script setup lang="ts">
import { MEANT, SEAMS } from '../../logic/joinChoices'
import InlineChoice from '../../ui/InlineChoice.vue'
import { useJoin } from './useJoin'

/** The seam of the chosen join and what its lengths are meant to be, at the join. */
const { join, set } = useJoin()
</script>

<template>
  <template v-if="join">
    <span>{{ join.letter }}</span>
    <InlineChoice :choices="SEAMS" aria-label="Seam" :model-value="join.seam" @update:model-value="(seam) => seam && set({ seam })" />
    <InlineChoice
      :choices="MEANT"
      aria-label="Lengths"
      :model-value="join.meant"
      @update:model-value="(meant) => meant && set({ meant })"
    />
  </template>
</template>

<style scoped>
.typed {
  width: 128px;
}
</style>

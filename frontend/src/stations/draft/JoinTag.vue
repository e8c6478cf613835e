<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { MEANT, SEAMS } from '../../logic/joinChoices'
import { useJoin } from './useJoin'

/** The seam of the chosen join and what its lengths are meant to be, at the join. */
const { join, set } = useJoin()
const chosen = (e: Event) => (e.target as HTMLSelectElement).value
</script>

<template>
  <template v-if="join">
    <span>{{ join.letter }}</span>
    <select class="typed" aria-label="Seam" :value="join.seam" @change="set({ seam: chosen($event) as Schemas['SetJoin']['seam'] })">
      <option v-for="s in SEAMS" :key="s.value" :value="s.value">{{ s.title }}</option>
    </select>
    <select class="typed" aria-label="Lengths" :value="join.meant" @change="set({ meant: chosen($event) as Schemas['SetJoin']['meant'] })">
      <option v-for="m in MEANT" :key="m.value" :value="m.value">{{ m.title }}</option>
    </select>
  </template>
</template>

<style scoped>
select.typed {
  width: 128px;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { CORNERS } from '../../logic/finishes'
import { drawnEdge } from '../../state/draft'
import { useDraftBench } from '../../state/keys'
import { useCorner } from './useCorner'

/** How the chosen corner is cut, at the corner. */
const { panel, corner } = useDraftBench()
const { edge, set } = useCorner()
const between = computed(() => {
  const own = [...new Set((panel.value?.rings.find((r) => r.some((e) => e.of === corner.value)) ?? []).map((e) => e.of ?? ''))]
  const next = own[(own.indexOf(corner.value) + 1) % own.length] ?? ''
  return `${edge.value?.own_name} – ${drawnEdge(panel.value, next)?.own_name}`
})
</script>

<template>
  <span>{{ between }}</span>
  <select class="typed" aria-label="Corner" :value="edge?.corner_set" @change="set(($event.target as HTMLSelectElement).value)">
    <option v-for="c in CORNERS" :key="c.key" :value="c.key">{{ c.title }}</option>
  </select>
</template>

<style scoped>
select.typed {
  width: 118px;
}
</style>

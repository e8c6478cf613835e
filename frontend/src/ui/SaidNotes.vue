<script setup lang="ts">
import { computed } from 'vue'

/** What is said of a thing: in full whatever stops it and the first to look at, unless `folded`; the others behind how many they
 * are. */
type Note = { key: string; sentence: string; severity: string }
const props = defineProps<{ notes: readonly Note[]; folded?: boolean }>()
const ORDER = ['stop', 'look']
const rank = (n: Note) => (ORDER.includes(n.severity) ? ORDER.indexOf(n.severity) : ORDER.length)
const sorted = computed(() => [...props.notes].sort((a, b) => rank(a) - rank(b)))
const open = computed(() => {
  const stops = sorted.value.filter((n) => n.severity === 'stop').length
  return stops || (!props.folded && sorted.value[0]?.severity === 'look' ? 1 : 0)
})
const more = computed(() => sorted.value.slice(open.value))
</script>

<template>
  <p v-for="n in sorted.slice(0, open)" :key="n.key" class="said" :class="n.severity">{{ n.sentence }}</p>
  <details v-if="more.length" class="whole">
    <summary>{{ more.length }} {{ open ? 'more ' : '' }}{{ more.length > 1 ? 'notes' : 'note' }}</summary>
    <p v-for="n in more" :key="n.key" class="said" :class="n.severity">{{ n.sentence }}</p>
  </details>
</template>

<style scoped>
details > .said {
  margin-bottom: 8px;
}
</style>

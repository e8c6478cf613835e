<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { useShapeBench } from '../state/keys'

/** The stretches of the outline that the photo leaves in doubt, to be settled one by one. */
const props = defineProps<{ placed: Schemas['Placed']; photo: number; found: number }>()
const { work } = useShapeBench()
const open = computed(() => props.placed.doubtful.map((s, k) => ({ ...s, k })).filter((s) => !s.settled))
</script>

<template>
  <section v-if="open.length" aria-label="Where the edge isn’t sure">
    <p class="said look">{{ open.length === 1 ? 'Along one stretch the photo leaves the edge in doubt.' : `Along ${open.length} stretches the photo leaves the edge in doubt.` }} Look along each; mend it by painting or walking, or say that it is right.</p>
    <ul>
      <li v-for="s in open" :key="s.k"><span>{{ s.k + 1 }} · may be {{ s.off }} off</span><v-btn size="small" @click="work.confirmEdge(photo, found, s.k)">It is right</v-btn></li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  min-height: 44px;
}
</style>

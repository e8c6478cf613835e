<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useShapeBench } from '../../state/keys'

/** The stretches of the outline that the photo leaves in doubt, the worst first, to be settled one by one or together. */
const props = defineProps<{ placed: Schemas['PlacedPhoto']; photo: number; outline: number }>()
const { work } = useShapeBench()
const SHOWN = 2
const open = computed(() =>
  props.placed.doubtful
    .map((s, k) => ({ ...s, k }))
    .filter((s) => !s.is_settled)
    .sort((a, b) => b.off_mm - a.off_mm),
)
const right = (stretches: number[]) => work.confirmEdge(props.photo, props.outline, stretches)
</script>

<template>
  <section v-if="open.length" aria-label="Where the edge isn’t sure">
    <p class="said look">
      {{
        open.length === 1
          ? 'Along one stretch the edge is in doubt. Look along it;'
          : `Along ${open.length} stretches the edge is in doubt. Look along them;`
      }}
      paint or walk what is wrong, or say it is right.
    </p>
    <ul>
      <li v-for="s in open.slice(0, SHOWN)" :key="s.k">
        <span>{{ s.k + 1 }} · may be {{ s.off }} off</span><v-btn size="small" @click="right([s.k])">It is right</v-btn>
      </li>
    </ul>
    <v-btn v-if="open.length > 1" size="small" @click="right(open.map((s) => s.k))">All {{ open.length }} are right</v-btn>
  </section>
</template>

<style scoped>
ul {
  display: grid;
  gap: 6px;
  margin: 2px 0 0;
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

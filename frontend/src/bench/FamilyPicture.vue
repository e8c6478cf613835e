<script setup lang="ts">
import { computed } from 'vue'
import { FAMILY_PICTURES } from '../logic/familyPictures'

/** A family of covers as we draw it; where the tape goes for the measure that is `shown` is drawn boldly. */
const props = defineProps<{ family: string; shown?: string; plain?: boolean }>()
const picture = computed(() => FAMILY_PICTURES[props.family])
</script>

<template>
  <svg v-if="picture" viewBox="0 0 120 90" class="picture" aria-hidden="true">
    <path :d="picture.lines" class="line" />
    <path v-if="picture.hidden" :d="picture.hidden" class="hidden" />
    <template v-if="!plain">
      <path v-for="(d, name) in picture.measures" :key="name" :d="d" class="tape" :class="{ shown: name === shown }" />
    </template>
  </svg>
</template>

<style scoped>
.picture {
  width: 100%;
}
path {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.line {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.hidden {
  stroke: var(--soft-ink);
  stroke-width: 1;
  stroke-dasharray: 3 2.5;
}
.tape {
  stroke: var(--weld);
  stroke-width: 1.2;
  opacity: 0.45;
}
.shown {
  stroke: var(--woad);
  stroke-width: 2.8;
  opacity: 1;
}
</style>

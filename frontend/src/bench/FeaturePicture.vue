<script setup lang="ts">
/** Small pictures of what is put on a panel, drawn for this application: cloth, what is done to it, where it folds or is cut. */
defineProps<{ kind: string }>()
const PICTURES: Record<string, { cloth: string[]; work?: string[]; fold?: string[] }> = {
  dart: { cloth: ['M4 4H20M40 4H56M4 4V28M56 4V28'], work: ['M20 4 30 24 40 4'], fold: ['M30 24V6'] },
  pleats: { cloth: ['M4 6H20L14 12H32L26 18H44L38 24H56'], fold: ['M20 6V26M32 12V26'] },
  gather: { cloth: ['M4 24H56'], work: ['M4 12q4-8 7 0t7 0 7 0 7 0 7 0 7 0 6 0'] },
  taper: { cloth: ['M6 28V16Q7 6 18 5H56'], fold: ['M6 16V3H18'] },
  aperture: { cloth: ['M4 3H56V28H4Z'], work: ['M30 8a7.5 7.5 0 1 0 .01 0'], fold: ['M30 11.5a4 4 0 1 0 .01 0'] },
  mark: { cloth: ['M4 3H56V28H4Z'], work: ['M25 10 35 21M35 10 25 21'] },
  layer: { cloth: ['M12 4H56V20H12Z'], fold: ['M8 8H12M8 8V24H52V20', 'M4 12H8M4 12V28H48V24'] },
}
</script>

<template>
  <svg viewBox="0 0 60 30" width="60" height="30" aria-hidden="true">
    <path v-for="d in PICTURES[kind]?.cloth" :key="d" :d="d" class="cloth" />
    <path v-for="d in PICTURES[kind]?.fold" :key="d" :d="d" class="fold" />
    <path v-for="d in PICTURES[kind]?.work" :key="d" :d="d" class="work" />
  </svg>
</template>

<style scoped>
path {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.cloth {
  stroke: var(--ink);
  stroke-width: 2.2;
}
.work {
  stroke: var(--madder);
  stroke-width: 2.4;
}
.fold {
  stroke: var(--woad);
  stroke-width: 1.8;
  stroke-dasharray: 3 3;
}
</style>

<script setup lang="ts">
/** Small pictures of the folded cloth and of the corners, drawn for this application. */
defineProps<{ kind: string }>()
const PICTURES: Record<string, { cloth: string[]; cut?: string[]; dots?: [number, number][]; wrapped?: boolean }> = {
  plain: { cloth: ['M6 15H54'] },
  hem: { cloth: ['M6 21H50a5 5 0 0 0 0-11H32'] },
  double_hem: { cloth: ['M6 23H50a6 6 0 0 0 0-13H30a3 3 0 0 0 0 6H44'] },
  casing: { cloth: ['M6 24H48a8 8 0 0 0 0-17H30a3 3 0 0 0 0 6H36', 'M28 24V13'], dots: [[46, 15.5]] },
  bound: { cloth: ['M6 15H46'], cut: ['M36 9H48a6 6 0 0 1 0 12H36'], wrapped: true },
  raw: { cloth: ['M6 15H48'], cut: ['M48 9l4 2-4 2 4 2-4 2 4 2-4 2'] },
  faced: { cloth: ['M6 10H52'], cut: ['M52 10V17H26'] },
  piped: { cloth: ['M6 10H44', 'M6 20H44'], dots: [[49, 15]] },
  felled_wide: { cloth: ['M6 21H42a4 4 0 0 0 0-10H26', 'M54 16H30'] },
  felled_narrow: { cloth: ['M54 21H34', 'M6 16H30'], cut: ['M24 11H42a4 4 0 0 1 0 10'] },
  french: { cloth: ['M6 12H36V22H24V15H34', 'M54 12H39'] },
  lapped_over: { cloth: ['M6 10H40a3 3 0 0 1 0 6H28'], cut: ['M24 21H54'] },
  lapped_under: { cloth: ['M24 21H54'], cut: ['M6 12H40'] },
  zip: { cloth: ['M6 10H24V18', 'M54 10H36V18'], dots: [[30, 18]] },
  fold: { cloth: ['M54 10H14a5 5 0 0 0 0 10H54'] },
  by_rule: { cloth: ['M26 28V16H52'], cut: ['M16 28V12M22 6H52'], dots: [[16, 6]] },
  mitre: { cloth: ['M26 28V16H52'], cut: ['M16 28V6H52'] },
  square: { cloth: ['M26 28V16H52'], cut: ['M16 28V16H26V6H52'] },
  bevel: { cloth: ['M26 28V16H52'], cut: ['M16 28V16L26 6H52'] },
  mirror: { cloth: ['M26 28V16H52'], cut: ['M16 28V16L30 6H52', 'M12 16H48'] },
  hem_mitre: { cloth: ['M26 28V16H52'], cut: ['M14 28V24L34 4H52', 'M26 16L36 26'] },
}
</script>

<template>
  <svg viewBox="0 0 60 30" width="60" height="30" aria-hidden="true">
    <path v-for="d in PICTURES[kind]?.cut" :key="d" :d="d" class="cut" :class="{ wrapped: PICTURES[kind]?.wrapped }" />
    <path v-for="d in PICTURES[kind]?.cloth" :key="d" :d="d" class="cloth" />
    <circle v-for="[x, y] in PICTURES[kind]?.dots" :key="x" :cx="x" :cy="y" r="3.4" class="dot" />
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
  stroke-width: 2.8;
}
.cut {
  stroke: var(--soft-ink);
  stroke-width: 1.6;
}
.wrapped {
  stroke: var(--madder);
  stroke-width: 2.6;
}
.dot {
  fill: var(--madder);
}
</style>

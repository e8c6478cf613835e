<script setup lang="ts">
/** Small pictures of the folded cloth and of the corners, drawn for this application. */
defineProps<{ kind: string }>()
const PICTURES: Record<string, { cloth: string[]; cut?: string[]; dot?: boolean }> = {
  plain: { cloth: ['M6 15H54'] },
  hem: { cloth: ['M6 21H50a5 5 0 0 0 0-11H32'] },
  bound: { cloth: ['M6 15H46'], cut: ['M36 9H48a6 6 0 0 1 0 12H36'], dot: true },
  mitre: { cloth: ['M26 28V16H52'], cut: ['M16 28V6H52'] },
  square: { cloth: ['M26 28V16H52'], cut: ['M16 28V16H26V6H52'] },
  bevel: { cloth: ['M26 28V16H52'], cut: ['M16 28V16L26 6H52'] },
  mirror: { cloth: ['M26 28V16H52'], cut: ['M16 28V16L30 6H52', 'M12 16H48'] },
}
</script>

<template>
  <svg viewBox="0 0 60 30" width="60" height="30" aria-hidden="true">
    <path v-for="d in PICTURES[kind]?.cut" :key="d" :d="d" class="cut" :class="{ bound: kind === 'bound' }" />
    <path v-for="d in PICTURES[kind]?.cloth" :key="d" :d="d" class="cloth" />
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
  stroke-width: 3.2;
}
.cut {
  stroke: var(--soft-ink);
  stroke-width: 1.6;
}
.cut.bound {
  stroke: var(--madder);
  stroke-width: 2.6;
}
</style>

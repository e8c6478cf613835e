<script setup lang="ts">
import type { HelpPage } from '../logic/help'

/** The drawing of a page of help, which is its subject's small picture too. */
defineProps<{ page: HelpPage }>()
</script>

<template>
  <svg v-if="page.ink" viewBox="0 0 280 130" aria-hidden="true">
    <path v-for="d in page.ink" :key="d" :d="d" class="ink" />
    <path v-for="d in page.woad" :key="d" :d="d" class="woad" />
    <path v-for="d in page.madder" :key="d" :d="d" class="madder" />
  </svg>
</template>

<style scoped>
svg {
  background: var(--table);
  border-radius: 6px;
}
path {
  fill: none;
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.ink {
  stroke: var(--ink);
}
.woad {
  stroke: var(--woad);
}
.madder {
  stroke: var(--madder);
  stroke-width: 2.6px;
}
</style>

<script setup lang="ts">
import type { HelpPage } from '../logic/help'

/** A page of help: its drawing and its sentences. */
defineProps<{ page: HelpPage }>()
</script>

<template>
  <article>
    <h2>{{ page.title }}</h2>
    <svg v-if="page.ink" viewBox="0 0 280 130" aria-hidden="true">
      <path v-for="d in page.ink" :key="d" :d="d" class="ink" />
      <path v-for="d in page.woad" :key="d" :d="d" class="woad" />
      <path v-for="d in page.madder" :key="d" :d="d" class="madder" />
    </svg>
    <p v-for="line in page.text" :key="line">{{ line }}</p>
  </article>
</template>

<style scoped>
article {
  display: grid;
  align-content: start;
  gap: 10px;
}
h2 {
  font-size: 19px;
}
svg {
  width: min(280px, 100%);
  background: var(--table);
  border-radius: 6px;
}
path {
  fill: none;
  stroke-width: 2.6px;
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
  stroke-width: 3.4px;
}
</style>

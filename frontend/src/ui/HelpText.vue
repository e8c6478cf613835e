<script setup lang="ts">
import type { HelpPage } from '../logic/help'
import HelpPicture from './HelpPicture.vue'

/** A page of help: its drawing and its sentences. */
defineProps<{ page: HelpPage }>()
</script>

<template>
  <article>
    <h2>{{ page.title }}</h2>
    <HelpPicture :page="page" class="picture" />
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
.picture {
  width: min(280px, 100%);
}
</style>

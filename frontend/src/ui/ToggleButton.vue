<script setup lang="ts">
/** A button that is on or off, and says so. */
defineProps<{ on: boolean }>()
</script>

<template>
  <v-btn :class="{ on }" :aria-pressed="on"><slot /></v-btn>
</template>

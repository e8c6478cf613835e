<script setup lang="ts">
/** How far long work is, and a way to stop it. */
defineProps<{ work: { stage: string; share: number }; canStop?: boolean }>()
defineEmits<{ stop: [] }>()
</script>

<template>
  <div class="work" role="status">
    <span>{{ work.stage || 'waiting for its turn' }} …</span>
    <v-progress-linear :model-value="100 * work.share" color="primary" height="6" rounded :aria-label="`How far it is: ${work.stage}`" />
    <v-btn v-if="canStop" size="small" @click="$emit('stop')">Stop</v-btn>
  </div>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 4px 12px;
}
.work > .v-progress-linear {
  grid-row: 2;
  grid-column: 1;
}
.work > .v-btn {
  grid-row: 1 / span 2;
  grid-column: 2;
}
</style>

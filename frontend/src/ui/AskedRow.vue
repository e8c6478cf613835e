<script setup lang="ts">
/** A row of a form: what is asked, and where it is answered. */
defineProps<{ title: string; tick?: boolean }>()
</script>

<template>
  <label class="asked" :class="{ tick }"
    ><slot v-if="tick" /><span>{{ title }}</span
    ><slot v-if="!tick"
  /></label>
</template>

<style scoped>
.asked {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  min-height: 44px;
  line-height: 1.2;
}
.tick {
  justify-content: flex-start;
}
</style>

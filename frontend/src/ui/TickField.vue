<script setup lang="ts">
import AskedRow from './AskedRow.vue'

/** Yes or no. */
defineProps<{ title: string }>()
const ticked = defineModel<boolean>({ required: true })
</script>

<template>
  <AskedRow :title="title" tick><input v-model="ticked" type="checkbox" /></AskedRow>
</template>

<style scoped>
input {
  width: 20px;
  height: 20px;
  flex: none;
  accent-color: var(--woad);
}
</style>

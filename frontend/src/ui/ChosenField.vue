<script setup lang="ts">
import AskedRow from './AskedRow.vue'

/** One of a list. */
defineProps<{ title: string; choices: readonly { value: string; title: string }[] }>()
const chosen = defineModel<string | undefined>()
</script>

<template>
  <AskedRow :title="title"
    ><select v-model="chosen" class="typed" :aria-label="title">
      <option v-for="c in choices" :key="c.value" :value="c.value">{{ c.title }}</option>
    </select></AskedRow
  >
</template>

<style scoped>
.typed {
  width: 150px;
}
</style>

<script setup lang="ts" generic="K extends string">
/** One of a list within a sentence, a row or a table; `hint` stands there while nothing is chosen. */
defineProps<{ choices: readonly { value: K; title: string }[]; hint?: string }>()
const chosen = defineModel<K | ''>()
</script>

<template>
  <select v-model="chosen" class="typed">
    <option v-if="hint !== undefined" value="" disabled>{{ hint }}</option>
    <option v-for="c in choices" :key="c.value" :value="c.value">{{ c.title }}</option>
  </select>
</template>

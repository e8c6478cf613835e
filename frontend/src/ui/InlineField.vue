<script setup lang="ts">
/** A length or a figure typed within a sentence, a row or a table, or `words`; what else an input has is given to it. */
defineProps<{ words?: boolean }>()
const typed = defineModel<string | undefined>()
</script>

<template>
  <input v-model="typed" class="typed" :inputmode="words ? 'text' : 'decimal'" autocomplete="off" />
</template>

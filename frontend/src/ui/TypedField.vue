<script setup lang="ts">
import { useId } from 'vue'
import AskedRow from './AskedRow.vue'

/** A length, a figure or words as a maker writes them; what they mean is the server's to read. */
defineProps<{ title: string; unit?: string; words?: boolean; placeholder?: string; most?: number; refused?: string }>()
const id = useId()
const typed = defineModel<string | undefined>()
defineEmits<{ change: [] }>()
</script>

<template>
  <AskedRow :title="title"
    ><span
      ><input
        v-model="typed"
        class="typed"
        :class="{ figure: unit !== undefined }"
        :aria-label="title"
        :aria-invalid="!!refused"
        :aria-describedby="refused ? id : undefined"
        :inputmode="words ? 'text' : 'decimal'"
        autocomplete="off"
        :placeholder="placeholder"
        :maxlength="most"
        @change="$emit('change')"
      /><span v-if="unit !== undefined" class="unit">{{ unit }}</span></span
    ></AskedRow
  >
  <p v-if="refused" :id="id" class="refused" role="alert">{{ refused }}</p>
</template>

<style scoped>
span {
  white-space: nowrap;
}
.unit {
  display: inline-block;
  width: 28px;
  margin-left: 6px;
}
.typed {
  width: 120px;
}
.figure {
  width: 78px;
  text-align: right;
}
</style>

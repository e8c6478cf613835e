<script setup lang="ts" generic="Key extends string">
import { TOOL_PICTURES } from './toolPictures'

/** The tools of the bench, by what is done with them, side by side in their roll. The one in hand can be taken anew. */
defineProps<{ tools: Readonly<Record<Key, { title: string; does: string }>>; keys: readonly Key[]; modelValue: Key }>()
const emit = defineEmits<{ 'update:modelValue': [key: Key] }>()
</script>

<template>
  <div class="roll" role="group" aria-label="Tools on the bench" @pointerdown.stop @pointerup.stop>
    <button
      v-for="key in keys"
      :key="key"
      :aria-pressed="modelValue === key"
      :title="tools[key].does"
      @click="emit('update:modelValue', key)"
    >
      <svg viewBox="0 0 32 28" width="32" height="28" aria-hidden="true"><path :d="TOOL_PICTURES[key]" /></svg>{{ tools[key].title }}
    </button>
  </div>
</template>

<style scoped>
.roll {
  display: flex;
  flex-direction: column;
  gap: 2px;
  padding: 6px 4px;
  overflow: auto;
  background: var(--tape);
  border-radius: 8px;
  box-shadow: inset 0 3px 0 var(--tape-filled);
}
button {
  display: grid;
  justify-items: center;
  flex: 1 0 auto;
  min-width: 70px;
  min-height: 52px;
  max-height: 64px;
  padding: 3px 4px;
  align-content: center;
  font: inherit;
  font-size: 13px;
  font-weight: 600;
  line-height: 1.1;
  color: var(--tape-ink);
  background: none;
  border: 0;
  border-radius: 8px;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--paper);
  color: var(--ink);
  box-shadow: 0 1px 3px #1f2d2b33;
}
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.9;
  stroke-linejoin: round;
  stroke-linecap: round;
}
@media (max-width: 900px) {
  .roll {
    flex-direction: row;
  }
}
@media (max-height: 719px) {
  button {
    min-height: 44px;
  }
  svg {
    display: none;
  }
}
</style>

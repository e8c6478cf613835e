<script setup lang="ts">
import { computed } from 'vue'
import { useShapeBench } from '../../state/keys'

/** The steps of trueing up: read, switched off, and replayed. */
const { work, table } = useShapeBench()
const steps = computed(() => table.shape.value?.steps ?? [])
const off = computed(() => steps.value.filter((s) => !s.on || s.skip_reason).length)
</script>

<template>
  <div class="steps">
    <p class="soft">
      {{ steps.length }} {{ steps.length === 1 ? 'step' : 'steps' }}{{ off ? `, ${off} off` : '' }}. Switched off, a step counts no more;
      those after it are done again without it.
    </p>
    <ol>
      <li v-for="(s, k) in steps" :key="k" :class="{ off: !s.on || s.skip_reason }">
        <label><input type="checkbox" :checked="s.on" @change="work.switchStep(k, !s.on)" /> {{ s.words }}</label>
        <p v-if="s.skip_reason" class="small wrong">Skipped: {{ s.skip_reason }}</p>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  margin: 0;
  padding: 0 0 0 26px;
}
label {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  line-height: 1.25;
  cursor: pointer;
}
input {
  width: 20px;
  height: 20px;
  flex: none;
  accent-color: var(--woad);
}
.off label {
  color: var(--soft-ink);
  text-decoration: line-through;
}
</style>

<script setup lang="ts">
import type { StationKey } from '../api/client'
import { useGuide } from '../state/guide'
import { useOpenJob } from '../state/keys'

/** The guide through the first job: which step comes next, and the way to it. */
const props = defineProps<{ station: StationKey }>()
const state = useOpenJob()
const { step, leave } = useGuide(state)
</script>

<template>
  <aside v-if="step" class="guide" aria-label="The first job, step by step">
    <b>Step {{ step.number }} of 5</b>
    <p role="status">{{ step.says }}</p>
    <v-btn
      v-if="step.station !== props.station"
      color="primary"
      variant="flat"
      :to="{ name: 'job', params: { id: state.id, station: step.station } }"
      >To {{ step.station === 'shape' ? 'Shape' : step.station === 'draft' ? 'Draft' : 'Make' }}</v-btn
    >
    <v-btn v-else-if="step.act" color="primary" variant="flat" :disabled="!!state.sending.value" @click="step.act.does()">{{
      step.act.title
    }}</v-btn>
    <v-btn variant="text" @click="leave">{{ step.number === 5 ? 'Done' : 'Leave the guide' }}</v-btn>
  </aside>
</template>

<style scoped>
.guide {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  padding: 2px 8px 2px 16px;
  background: var(--woad-pale);
  border-radius: 8px;
}
p {
  flex: 1 1 300px;
}
</style>

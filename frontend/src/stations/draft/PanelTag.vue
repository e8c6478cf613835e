<script setup lang="ts">
import { useDraftBench, useOpenJob } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'
import { labelOf } from './label'

/** How many are cut of the chosen panel and of what, at the panel. */
const state = useOpenJob()
const { panel } = useDraftBench()
</script>

<template>
  <template v-if="panel">
    <span>cut</span>
    <EntryField label="How many" :value="String(panel.count)" :keep="(count) => state.keep({ ...labelOf(panel!), count })" />
    <span>of</span>
    <EntryField words label="Cloth" :value="panel.cloth" hint="cloth" :keep="(cloth) => state.keep({ ...labelOf(panel!), cloth })" />
  </template>
</template>

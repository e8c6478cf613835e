<script setup lang="ts">
import { computed, ref } from 'vue'
import { useDraftBench, useOpenJob } from '../../state/keys'

/** An empty table: where the first panel comes from. */
const emit = defineEmits<{ measures: []; read: [] }>()
const state = useOpenJob()
const { job } = state
const draft = useDraftBench()
const pieces = computed(() => job.value?.pieces.length ?? 0)
const several = computed(() => pieces.value > 1)
/** Of several pieces the one on the table keeps its name. */
const name = ref((several.value && job.value?.pieces.find((p) => p.id === job.value?.open_piece)?.name) || 'panel')
async function make(change: { kind: 'make_panel'; name: string } | { kind: 'make_panels' }) {
  if (await state.do(change)) draft.showLast()
}
</script>

<template>
  <div v-if="job" class="start">
    <template v-if="job.shape">
      <h2>{{ several ? 'The outlines are ready to become panels.' : 'The outline is ready to become a panel.' }}</h2>
      <v-btn v-if="several" color="primary" variant="flat" height="48" @click="make({ kind: 'make_panels' })"
        >Make panels of all {{ pieces }} pieces</v-btn
      >
      <form class="row" @submit.prevent="make({ kind: 'make_panel', name: name.trim() })">
        <v-text-field v-model="name" label="Name on its label" maxlength="80" autofocus /><v-btn
          type="submit"
          :color="several ? undefined : 'primary'"
          :variant="several ? 'outlined' : 'flat'"
          height="48"
          :disabled="!name.trim()"
          >{{ several ? 'Make this one' : 'Make the panel' }}</v-btn
        >
      </form>
    </template>
    <template v-else>
      <h2>Draft needs an outline first.</h2>
      <v-btn color="primary" variant="flat" :to="{ name: 'job', params: { id: job.id, station: 'shape' } }">Photograph the piece</v-btn>
    </template>
    <p class="soft">Or without an outline:</p>
    <div class="row">
      <v-btn @click="emit('measures')">Draft a cover from measures</v-btn
      ><v-btn @click="emit('read')">Read an SVG, DXF or panels file</v-btn>
    </div>
  </div>
</template>

<style scoped>
.start {
  position: absolute;
  inset: 16% 8% auto;
  display: grid;
  justify-items: center;
  gap: 16px;
  text-align: center;
}
.start h2 {
  font-size: 24px;
}
.start form {
  min-width: 420px;
}
@media (max-width: 900px) {
  .start form {
    min-width: 0;
  }
}
</style>

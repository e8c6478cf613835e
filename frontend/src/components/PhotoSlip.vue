<script setup lang="ts">
import { computed, ref } from 'vue'
import { answered, client, type Schemas } from '../api/client'
import { useOpenJob } from '../state/keys'
import WantedSlip from './WantedSlip.vue'

const state = useOpenJob()
const { job } = state
const latest = computed(() => job.value?.photos.at(-1) ?? null)
const wanted = computed<Schemas['WantedIn']>({
  get: () => ({ kind: latest.value?.kind ?? 'piece', side: latest.value?.side ?? 'centre', height: latest.value?.height ?? '' }),
  set: (value) => latest.value && state.measureAgain(latest.value.id, value),
})
const across = ref('')
const up = ref('')

async function keepScale() {
  const body = { across: across.value, up: up.value }
  await state.change(() => answered(client.PUT('/api/jobs/{job_id}/sheet-scale', { params: { path: state.path }, headers: state.headers(), body })))
}
const scaled = computed(() => job.value?.sheet_scale.some((s) => s !== 1))
</script>

<template>
  <section aria-label="What came of the photo">
    <template v-if="latest">
      <h3>{{ latest.name }}{{ latest.together.length > 1 ? ` and ${latest.together.length - 1} more` : '' }}</h3>
      <p v-if="latest.status === 'refused' || latest.status === 'failed'" class="said stop" role="alert">{{ latest.sentence }}</p>
      <p v-else-if="latest.status === 'choose'" class="said look">{{ latest.sentence }}</p>
      <p v-for="w in latest.warnings" :key="w" class="said look gap">{{ w }}</p>
      <p v-if="latest.status === 'done'" class="soft small">Measured by {{ latest.sheets.length === 1 ? 'one sheet' : `${latest.sheets.length} sheets` }}: {{ latest.sheets.join(', ').toUpperCase() }}.</p>
      <details v-if="latest.status !== 'waiting' && latest.status !== 'working'" :open="latest.status === 'refused'">
        <summary>What is looked for</summary>
        <WantedSlip v-model="wanted" />
        <p class="soft small gap">Changing it measures the photo again. {{ latest.if_higher }}</p>
      </details>
    </template>
    <details>
      <summary>Did the sheets print true?</summary>
      <p class="soft small">Measure the 100 mm marks on a sheet with a steel rule. The next photo is measured by what you type.</p>
      <p v-if="scaled" class="small">Taken into account: {{ job?.sheet_scale.map((s) => `${(s * 100).toFixed(1)} mm`).join(' across, ') }} up.</p>
      <form class="row" @submit.prevent="keepScale">
        <input class="typed" v-model="across" aria-label="100 mm mark across measures" placeholder="across" inputmode="decimal" />
        <input class="typed" v-model="up" aria-label="100 mm mark up measures" placeholder="up" inputmode="decimal" />
        <v-btn type="submit" :disabled="!across || !up">Keep</v-btn>
      </form>
    </details>
  </section>
</template>

<style scoped>
.gap {
  margin-top: 8px;
}
.row {
  display: flex;
  gap: 10px;
  margin-top: 6px;
}
</style>

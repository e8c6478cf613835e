<script setup lang="ts">
import { computed, reactive } from 'vue'
import { ask, type Schemas } from '../../api/client'
import { NOTHING_SAID, wantedOf } from '../../state/job'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import PhotoOutcome from './PhotoOutcome.vue'
import WantedSlip from './WantedSlip.vue'
import AskedForm from '../../ui/AskedForm.vue'
import InlineField from '../../ui/InlineField.vue'

const state = useOpenJob()
const { job } = state
const latest = computed(() => job.value?.photos.at(-1) ?? null)
const wanted = computed<Schemas['WantedIn']>({
  get: () => {
    return latest.value ? wantedOf(latest.value) : NOTHING_SAID
  },
  set: (value) => latest.value && state.measureAgain(latest.value.id, value),
})
const sheetsUsed = computed(() => {
  const ids = latest.value?.sheets ?? []
  return `${ids.length === 1 ? 'one sheet' : `${ids.length} sheets`}: ${ids.join(', ').toUpperCase()}`
})
const marks = reactive({ across: '', up: '' })
const keepScale = () => state.keep({ kind: 'set_sheet_scale', ...marks })
const tape = reactive({ first: '', second: '', tape: '' })
const keepTape = () => state.keep({ kind: 'set_sheet_distance', ...tape })
const removeTape = (first: string, second: string) => state.do({ kind: 'set_sheet_distance', first, second, tape: '' })
async function removePhoto() {
  if (!latest.value) return
  try {
    await ask('delete', '/api/photos/{photo_id}', { params: { path: { photo_id: latest.value.id } } })
    await state.load()
  } catch (e) {
    sayWrong(e)
  }
}
const again = () => latest.value && state.measureAgain(latest.value.id, wanted.value)
const scaled = computed(() => job.value?.sheet_scale.some((s) => s !== 1))
</script>

<template>
  <section aria-label="What came of the photo">
    <template v-if="latest">
      <h3>{{ latest.name }}{{ latest.together.length > 1 ? ` and ${latest.together.length - 1} more` : '' }}</h3>
      <PhotoOutcome :photo="latest" />
      <p v-if="latest.status === 'done'" class="soft small">
        {{ latest.dpi ? `A scan of ${latest.dpi} dots per inch.` : `Measured by ${sheetsUsed}.` }}
      </p>
      <details v-if="latest.status !== 'waiting' && latest.status !== 'working'" class="whole">
        <summary>What is looked for</summary>
        <WantedSlip v-model="wanted" />
        <label v-if="!latest.dpi" class="check"
          ><input type="checkbox" :checked="latest.by_profile" @change="wanted = { ...wanted, by_profile: !latest.by_profile }" /> by the
          camera’s profile, if it has one</label
        >
        <v-btn v-if="latest.status !== 'done'" size="small" class="gap" @click="removePhoto">Remove this photo</v-btn>
        <p class="soft small gap">Changing it measures the photo again; what you trued up is kept. {{ latest.if_higher }}</p>
      </details>
    </template>
    <p class="small"><RouterLink to="/cameras">Calibrate your camera once</RouterLink>, and every photo by it is surer.</p>
    <details class="whole">
      <summary>A tape between the sheets</summary>
      <p class="soft small">On large work, tape from the upper left corner of one sheet’s chequers to that of another.</p>
      <ul v-if="job?.sheet_distances.length" class="taped">
        <li v-for="d in job.sheet_distances" :key="d.first + d.second">
          {{ d.first.toUpperCase() }} – {{ d.second.toUpperCase() }}: {{ d.tape }} {{ job.unit }}
          <button :aria-label="`Remove ${d.first} to ${d.second}`" @click="removeTape(d.first, d.second)">remove</button>
        </li>
      </ul>
      <AskedForm class="row" :values="tape" :send="keepTape" @taken="Object.assign(tape, { first: '', second: '', tape: '' })">
        <InlineField words v-model="tape.first" aria-label="From sheet" placeholder="A4-01" />
        <InlineField words v-model="tape.second" aria-label="To sheet" placeholder="A4-02" />
        <InlineField v-model="tape.tape" aria-label="Tape between them" placeholder="tape" />
        <v-btn type="submit" :disabled="!tape.first || !tape.second || !tape.tape">Save</v-btn>
      </AskedForm>
      <v-btn v-if="job?.sheet_distances.length && latest?.status === 'done' && !latest.dpi" size="small" @click="again"
        >Measure again by it</v-btn
      >
    </details>
    <details class="whole">
      <summary>Did the sheets print true?</summary>
      <p class="soft small">
        Measure the {{ job?.test_mark }} marks on a sheet with a steel rule. The next photo is measured by what you type.
      </p>
      <p v-if="scaled" class="small">
        Taken into account: {{ job?.sheet_scale.map((s) => `${(s * 100).toFixed(1)} %`).join(' across, ') }} up.
      </p>
      <AskedForm class="row" :values="marks" :send="keepScale">
        <InlineField v-model="marks.across" :aria-label="`${job?.test_mark} mark across measures`" placeholder="across" />
        <InlineField v-model="marks.up" :aria-label="`${job?.test_mark} mark up measures`" placeholder="up" />
        <v-btn type="submit" :disabled="!marks.across || !marks.up">Save</v-btn>
      </AskedForm>
    </details>
  </section>
</template>

<style scoped>
.gap {
  margin-top: 8px;
}
.check {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
}
.check input {
  width: 20px;
  height: 20px;
  accent-color: var(--woad);
}
.taped {
  margin: 6px 0 0;
  padding-left: 18px;
}
.taped button {
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--woad);
  font: inherit;
  cursor: pointer;
}
section a {
  color: var(--woad);
  font-weight: 600;
}
.row {
  flex-wrap: wrap;
  display: flex;
  gap: 10px;
  margin-top: 6px;
}
</style>

<script setup lang="ts">
import { computed, onMounted, reactive, ref, shallowRef, watch } from 'vue'
import { ask, type Schemas } from '../../api/client'
import KeptPhotos from './KeptPhotos.vue'
import PinnedSlip from '../../bench/PinnedSlip.vue'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import '../../bench/station.css'
import ToggleButton from '../../ui/ToggleButton.vue'
import EntryField from '../../ui/EntryField.vue'

const state = useOpenJob()
const { job } = state
const AGAINST = ['dust', 'weather', 'wear', 'padding', 'looks']
const GOES_ON = ['lifts off', 'pulled over', 'tied under', 'cord under', 'zipped']
const LOOSENESS = ['close', 'easy', 'loose']
const NEAR: Record<string, string> = {
  heat: 'something hot',
  motor: 'a motor or machine',
  seating: 'people sit on it',
  filling: 'it is filled',
  cord: 'cords or ties',
  vehicle: 'a vehicle or boat',
  weight: 'it carries a person',
  dust: 'clay or other dust',
}

type Answers = { name: string; for_whom: string; due: string; brief: Schemas['Brief'] }
const answers = reactive<Answers>(empty())
const texts = shallowRef<Record<string, string>>({})
const dirty = ref(false)

function empty(): Answers {
  return {
    name: '',
    for_whom: '',
    due: '',
    brief: { covers: '', against: [], goes_on: '', looseness: '', sticks_out: '', cloth: '', near: [], notes: '' },
  }
}
function fill() {
  const j = job.value
  if (!j) return
  Object.assign(answers, { name: j.name, for_whom: j.for_whom, due: j.due ?? '', brief: structuredClone(j.brief) })
  dirty.value = false
}
watch(() => job.value?.revision, fill, { immediate: true })
onMounted(() => ask('get', '/api/cautions').then((all) => (texts.value = all), sayWrong))

const cautions = computed(() => (answers.brief.near ?? []).map((k) => texts.value[k]).filter(Boolean))

async function keep() {
  dirty.value = false
  const kept = await state.do({ kind: 'set_brief', ...answers, due: answers.due || null })
  if (!kept) dirty.value = true
}
function toggle(list: 'against' | 'near', key: string) {
  const now = answers.brief[list] ?? []
  answers.brief[list] = now.includes(key) ? now.filter((k) => k !== key) : [...now, key]
  keep()
}
function pick(field: 'goes_on' | 'looseness', value: string) {
  answers.brief[field] = answers.brief[field] === value ? '' : value
  keep()
}
/** Kept at its own field: a figure may be refused there. */
const looseBy = (looseness: string) =>
  state.keep({ kind: 'set_brief', ...answers, due: answers.due || null, brief: { ...answers.brief, looseness } })
function change() {
  if (answers.name.trim()) keep()
}
</script>

<template>
  <div v-if="job" class="station">
    <section class="paper-sheet" aria-label="Brief" @input="dirty = true">
      <div class="two">
        <v-text-field
          v-model="answers.name"
          label="The job is called"
          maxlength="80"
          :error-messages="answers.name.trim() ? [] : ['A job needs a name.']"
          @change="change"
        />
        <v-text-field v-model="answers.for_whom" label="For whom" maxlength="80" @change="change" />
      </div>
      <div class="two">
        <v-text-field
          v-model="answers.brief.covers"
          label="What is covered?"
          placeholder="splash tray, arched, with a drain hole"
          @change="change"
        />
        <v-text-field v-model="answers.due" type="date" label="Due" @change="change" />
      </div>
      <fieldset>
        <legend>Against what?</legend>
        <div class="row">
          <ToggleButton v-for="a in AGAINST" :key="a" :on="!!answers.brief.against?.includes(a)" @click="toggle('against', a)">{{
            a
          }}</ToggleButton>
        </div>
      </fieldset>
      <fieldset>
        <legend>How does it go on and come off?</legend>
        <div class="row">
          <ToggleButton v-for="a in GOES_ON" :key="a" :on="answers.brief.goes_on === a" @click="pick('goes_on', a)">{{ a }}</ToggleButton>
        </div>
      </fieldset>
      <fieldset>
        <legend>How loose?</legend>
        <div class="row">
          <ToggleButton v-for="a in LOOSENESS" :key="a" :on="answers.brief.looseness === a" @click="pick('looseness', a)">{{
            a
          }}</ToggleButton><span class="by"
            >or by
            <EntryField
              label="Loose by"
              :value="LOOSENESS.includes(answers.brief.looseness ?? '') ? '' : (answers.brief.looseness ?? '')"
              :unit="job.unit"
              :keep="looseBy"
            />
          </span>
        </div>
      </fieldset>
      <div class="two">
        <v-text-field
          v-model="answers.brief.sticks_out"
          label="What sticks out or must stay reachable?"
          placeholder="handles, posts, cables"
          @change="change"
        />
        <v-text-field v-model="answers.brief.cloth" label="Which cloth?" @change="change" />
      </div>
      <fieldset>
        <legend>Is any of this true?</legend>
        <div class="row">
          <ToggleButton v-for="(words, key) in NEAR" :key="key" :on="!!answers.brief.near?.includes(key)" @click="toggle('near', key)">{{
            words
          }}</ToggleButton>
        </div>
      </fieldset>
      <KeptPhotos />
      <v-textarea v-model="answers.brief.notes" label="Notes" rows="2" auto-grow maxlength="2000" @change="change" />
    </section>
    <PinnedSlip>
      <h2>Mind</h2>
      <p v-if="!cautions.length" class="soft">Nothing said here asks for a caution yet.</p>
      <p v-for="c in cautions" :key="c" class="said look">{{ c }}</p>
      <h2>Next</h2>
      <p>{{ job.next_step.sentence }}</p>
      <v-btn
        v-if="job.next_step.station !== 'brief'"
        color="primary"
        variant="flat"
        :to="{ name: 'job', params: { id: job.id, station: job.next_step.station } }"
        >Go there</v-btn
      >
      <template v-if="!job.panels.length && !job.shape">
        <p class="soft">Can’t it be photographed, or needn’t it?</p>
        <v-btn :to="{ name: 'job', params: { id: job.id, station: 'draft' }, query: { cover: 'new' } }"
          >Choose the kind of cover, and measure</v-btn
        >
      </template>
      <p v-if="dirty" class="soft small">Saved as soon as you leave the field.</p>
    </PinnedSlip>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1.5fr 1fr;
  gap: 16px;
}
.by {
  display: flex;
  align-items: center;
  gap: 6px;
}
.on::before {
  content: '✓';
  margin-right: 6px;
}
@media (max-width: 600px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>

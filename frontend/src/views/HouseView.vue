<script setup lang="ts">
import { computed, onMounted, reactive, ref, shallowRef } from 'vue'
import { ask, Refusal, type Schemas } from '../api/client'
import ClothPicture from '../bench/ClothPicture.vue'
import '../bench/station.css'
import { useJob } from '../state/job'
import { say, sayWrong } from '../state/notice'
import AskedForm from '../ui/AskedForm.vue'
import AppMark from '../ui/AppMark.vue'
import ChosenField from '../ui/ChosenField.vue'
import type { Field } from '../ui/fields'
import FormFields from '../ui/FormFields.vue'
import EntryField from '../ui/EntryField.vue'
import ToggleButton from '../ui/ToggleButton.vue'

/** House rules and cloths: those that new jobs start with, or those of one job. */
type Change = Schemas['SetHouseRule'] | Schemas['SetCloth']
const props = defineProps<{ job?: number }>()
const RULES = [
  { key: 'seam', title: 'plain seam', picture: 'plain' },
  { key: 'piped', title: 'piped seam', picture: 'piped' },
  { key: 'faced', title: 'faced edge', picture: 'faced' },
  { key: 'hem', title: 'hem', picture: 'hem' },
  { key: 'double_hem', title: 'double hem, deep', picture: 'double_hem' },
  { key: 'turn_under', title: 'turn-under', picture: 'double_hem' },
  { key: 'stitched_from_fold', title: 'casing, stitched from its fold', picture: 'casing' },
  { key: 'felled', title: 'felled seam, wide', picture: 'felled_wide' },
  { key: 'french_first', title: 'French seam, first pass', picture: 'french' },
  { key: 'french_second', title: 'French seam, second pass', picture: 'french' },
  { key: 'lap', title: 'lap', picture: 'lapped_over' },
  { key: 'zip', title: 'zip', picture: 'zip' },
] as const
const CLOTH: readonly Field[] = [
  { key: 'name', title: 'cloth', kind: 'text' },
  { key: 'thickness', title: 'thick' },
  { key: 'warp_shrinks', title: 'shrinks along, %' },
  { key: 'weft_shrinks', title: 'shrinks across, %' },
  { key: 'warp_stretches', title: 'stretches along, %' },
  { key: 'weft_stretches', title: 'stretches across, %' },
  { key: 'prewashed', title: 'washed before it is cut', kind: 'yes' },
  { key: 'own_rules', title: 'has rules of its own', kind: 'yes' },
]
const EMPTY = {
  name: '',
  thickness: '',
  warp_shrinks: '',
  weft_shrinks: '',
  warp_stretches: '',
  weft_stretches: '',
  prewashed: '',
  own_rules: '',
}
const state = props.job === undefined ? null : useJob(props.job)
const ours = shallowRef<Schemas['HouseView'] | null>(null)
const house = computed(() => (state ? (state.job.value?.house ?? null) : ours.value))
const unit = computed(() => state?.job.value?.unit ?? ((localStorage.getItem('unit') as Schemas['JobView']['unit'] | null) || 'mm'))
const of = ref('')
const cloth = reactive<Record<string, string>>({ ...EMPTY })
const cloths = computed(() => house.value?.cloths ?? [])
const ruled = computed(() => [
  { value: '', title: 'all cloths' },
  ...cloths.value.filter((c) => c.rules).map((c) => ({ value: c.name, title: c.name })),
])
const rules = computed(() => cloths.value.find((c) => c.name === of.value)?.rules ?? house.value?.rules ?? {})

onMounted(async () => {
  document.title = 'House rules and cloths · Ypsicline'
  try {
    if (state) await state.load()
    else ours.value = await ask('get', '/api/workshop/house', { params: { query: { unit: unit.value } } })
  } catch (e) {
    sayWrong(e)
  }
})
async function keep(change: Change): Promise<Refusal | null> {
  if (state) return state.keep(change)
  try {
    ours.value = await ask('post', '/api/workshop/house', { params: { query: { unit: unit.value } }, body: change })
    return null
  } catch (e) {
    if (e instanceof Refusal) return e
    throw e
  }
}
const keepRule = (rule: string) => (length: string) => keep({ kind: 'set_house_rule', rule, length, cloth: of.value })
function pick(name: string) {
  const c = cloths.value.find((each) => each.name === name)
  const { thickness = '', warp_shrinks = '', weft_shrinks = '', warp_stretches = '', weft_stretches = '' } = c ?? {}
  Object.assign(cloth, { name, thickness, warp_shrinks, weft_shrinks, warp_stretches, weft_stretches })
  Object.assign(cloth, { prewashed: c?.prewashed ? 'yes' : '', own_rules: c?.rules ? 'yes' : '' })
}
function keepCloth(): Promise<Refusal | null> {
  const { name = '', warp_shrinks = '', weft_shrinks = '', warp_stretches = '', weft_stretches = '' } = cloth
  const typed = { name, warp_shrinks, weft_shrinks, warp_stretches, weft_stretches }
  const before = cloths.value.find((c) => c.name === name)
  const thick = before && cloth.thickness === before.thickness ? before.thickness_mm : cloth.thickness
  const thickness = thick ? { thickness: thick } : {}
  return keep({ kind: 'set_cloth', ...typed, ...thickness, prewashed: !!cloth.prewashed, own_rules: !!cloth.own_rules })
}
async function keepForHouse() {
  if (!state) return
  const call = () => ask('post', '/api/jobs/{job_id}/house/keep', { params: { path: state.path }, headers: state.headers() })
  if (await state.send(call)) say('New jobs start with these rules and cloths.')
}
</script>

<template>
  <main>
    <header>
      <AppMark />
      <h1>House rules and cloths</h1>
      <span class="soft">{{ state ? `as “${state.job.value?.name ?? ''}” takes them` : 'what new jobs start with' }}</span>
      <span class="gap" />
      <template v-if="state">
        <v-btn @click="keepForHouse">Let new jobs start with these</v-btn>
        <v-btn color="primary" variant="flat" :to="{ name: 'job', params: { id: job, station: 'draft' } }">Back to the job</v-btn>
      </template>
      <template v-else><v-btn to="/members">Members</v-btn><v-btn to="/">The wall</v-btn></template>
    </header>
    <div v-if="house" class="station">
      <section class="paper-sheet" aria-label="House rules">
        <div class="row between">
          <h2>How much is allowed</h2>
          <ChosenField v-model="of" title="for" :choices="ruled" />
        </div>
        <p class="soft">
          {{
            state
              ? 'Edges whose allowance goes by the rule follow at once.'
              : 'Jobs that are there keep their own; “House rules and cloths” at their Draft changes them.'
          }}
        </p>
        <ul>
          <li v-for="r in RULES" :key="r.key">
            <ClothPicture :kind="r.picture" />
            <span>{{ r.title }}</span>
            <EntryField :label="r.title" :value="rules[r.key] ?? ''" :unit="unit" :keep="keepRule(r.key)" />
          </li>
        </ul>
      </section>
      <section class="paper-sheet" aria-label="Cloths">
        <h2>Cloths</h2>
        <div class="row">
          <ToggleButton v-for="c in cloths" :key="c.name" :on="cloth.name === c.name" @click="pick(c.name)">{{ c.name }}</ToggleButton>
          <v-btn v-if="cloth.name" @click="pick('')">Another</v-btn>
        </div>
        <AskedForm
          v-slot="{ refused: wrong }"
          class="part"
          placed
          :values="cloth"
          :send="keepCloth"
          @taken="say(`${cloth.name} is saved.`)"
        >
          <FormFields :fields="CLOTH" :refused="wrong" :values="cloth" @set="(key, value) => Object.assign(cloth, { [key]: value })" />
          <v-btn type="submit" :disabled="!cloth.name?.trim()">Save the cloth</v-btn>
        </AskedForm>
      </section>
    </div>
  </main>
</template>

<style scoped src="./page.css"></style>
<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(340px, 100%), 1fr));
  gap: 6px 32px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 70px 1fr auto;
  align-items: center;
  gap: 10px;
  min-height: 60px;
  border-bottom: 1px solid var(--hairline);
}
</style>

<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { ask } from '../api/client'
import { say } from '../state/notice'
import { useOpenJob } from '../state/keys'

/** House rules: the allowance of each finish, of the house or of one cloth; and what the cloths do. */
const state = useOpenJob()
const { job } = state
const RULES: Record<string, string> = {
  seam: 'plain seam',
  piped: 'piped seam',
  faced: 'faced edge',
  hem: 'hem',
  double_hem: 'double hem, deep',
  turn_under: 'turn-under',
  stitched_from_fold: 'casing stitched from fold',
  felled: 'felled seam, wide',
  french_first: 'French, first pass',
  french_second: 'French, second pass',
  lap: 'lap',
  zip: 'zip',
}
const of = ref('')
const cloth = reactive({
  name: '',
  thickness: '',
  warp_shrinks: '',
  weft_shrinks: '',
  warp_stretches: '',
  weft_stretches: '',
  prewashed: false,
  own_rules: false,
})
const cloths = computed(() => job.value?.house.cloths ?? [])
const rules = computed(() => cloths.value.find((c) => c.name === of.value)?.rules ?? job.value?.house.rules)
const typed = reactive<Record<string, string>>({})
watch(
  rules,
  (r) => {
    for (const key of Object.keys(RULES)) typed[key] = r?.[key] ?? ''
  },
  { immediate: true },
)
function pick(name: string) {
  const found = cloths.value.find((c) => c.name === name)
  Object.assign(cloth, {
    name,
    thickness: found?.thickness ?? '',
    warp_shrinks: found?.warp_shrinks ?? '',
    weft_shrinks: found?.weft_shrinks ?? '',
    warp_stretches: found?.warp_stretches ?? '',
    weft_stretches: found?.weft_stretches ?? '',
    prewashed: found?.prewashed ?? false,
    own_rules: !!found?.rules,
  })
}
const keepRule = (key: string) => state.do({ kind: 'set_house_rule', rule: key, length: typed[key] ?? '', cloth: of.value })
const keepCloth = () => state.do({ kind: 'set_cloth', ...cloth, thickness: cloth.thickness || state.typed(0.5) })
async function keepForHouse() {
  if (await state.send(() => ask('post', '/api/jobs/{job_id}/house/keep', { params: { path: state.path }, headers: state.headers() })))
    say('New jobs start with these rules and cloths.')
}
</script>

<template>
  <div class="part">
    <h2>House rules</h2>
    <p class="soft">Edges whose allowance goes by the rule follow at once.</p>
    <label class="asked"
      ><span>rules of</span
      ><select class="typed middling" v-model="of">
        <option value="">the house</option>
        <option v-for="c in cloths.filter((c) => c.rules)" :key="c.name" :value="c.name">{{ c.name }}</option>
      </select></label
    >
    <label v-for="(title, key) in RULES" :key="key" class="asked"
      ><span>{{ title }}</span
      ><input class="typed middling" v-model="typed[key]" inputmode="decimal" autocomplete="off" @change="keepRule(key)"
    /></label>
    <h2>Cloths</h2>
    <div class="row">
      <v-btn
        v-for="c in cloths"
        :key="c.name"
        :aria-pressed="cloth.name === c.name"
        :class="{ on: cloth.name === c.name }"
        @click="pick(c.name)"
        >{{ c.name }}</v-btn
      >
    </div>
    <form class="part" @submit.prevent="keepCloth">
      <label class="asked"><span>cloth</span><input class="typed middling" v-model="cloth.name" maxlength="40" /></label>
      <label class="asked"
        ><span>thick</span><input class="typed middling" v-model="cloth.thickness" :placeholder="state.typed(0.5)"
      /></label>
      <label class="asked"
        ><span>shrinks along, %</span><input class="typed middling" v-model="cloth.warp_shrinks" inputmode="decimal"
      /></label>
      <label class="asked"
        ><span>shrinks across, %</span><input class="typed middling" v-model="cloth.weft_shrinks" inputmode="decimal"
      /></label>
      <label class="asked"
        ><span>stretches along, %</span><input class="typed middling" v-model="cloth.warp_stretches" inputmode="decimal"
      /></label>
      <label class="asked"
        ><span>stretches across, %</span><input class="typed middling" v-model="cloth.weft_stretches" inputmode="decimal"
      /></label>
      <label class="asked"><span>washed before it is cut</span><input v-model="cloth.prewashed" type="checkbox" /></label>
      <label class="asked"><span>has rules of its own</span><input v-model="cloth.own_rules" type="checkbox" /></label>
      <v-btn type="submit" :disabled="!cloth.name.trim()">Save the cloth</v-btn>
    </form>
    <v-btn @click="keepForHouse">Let new jobs start with these</v-btn>
  </div>
</template>

<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { ask } from '../../api/client'
import { say } from '../../state/notice'
import { useOpenJob } from '../../state/keys'
import ChosenField from '../../ui/ChosenField.vue'
import type { Field } from '../../ui/fields'
import FormFields from '../../ui/FormFields.vue'
import ToggleButton from '../../ui/ToggleButton.vue'

/** House rules: the allowance of each finish, of the house or of one cloth; and what the cloths do. */
const state = useOpenJob()
const { job } = state
const RULES: readonly Field[] = [
  { key: 'seam', title: 'plain seam' },
  { key: 'piped', title: 'piped seam' },
  { key: 'faced', title: 'faced edge' },
  { key: 'hem', title: 'hem' },
  { key: 'double_hem', title: 'double hem, deep' },
  { key: 'turn_under', title: 'turn-under' },
  { key: 'stitched_from_fold', title: 'casing stitched from fold' },
  { key: 'felled', title: 'felled seam, wide' },
  { key: 'french_first', title: 'French, first pass' },
  { key: 'french_second', title: 'French, second pass' },
  { key: 'lap', title: 'lap' },
  { key: 'zip', title: 'zip' },
]
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
const of = ref('')
const cloth = reactive({
  name: '',
  thickness: '',
  warp_shrinks: '',
  weft_shrinks: '',
  warp_stretches: '',
  weft_stretches: '',
  prewashed: '',
  own_rules: '',
})
const cloths = computed(() => job.value?.house.cloths ?? [])
const ruled = computed(() => [
  { value: '', title: 'the house' },
  ...cloths.value.filter((c) => c.rules).map((c) => ({ value: c.name, title: c.name })),
])
const rules = computed(() => cloths.value.find((c) => c.name === of.value)?.rules ?? job.value?.house.rules)
const typed = reactive<Record<string, string>>({})
watch(
  rules,
  (r) => {
    for (const { key } of RULES) typed[key] = r?.[key] ?? ''
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
    prewashed: found?.prewashed ? 'yes' : '',
    own_rules: found?.rules ? 'yes' : '',
  })
}
const keepRule = (key: string) => state.do({ kind: 'set_house_rule', rule: key, length: typed[key] ?? '', cloth: of.value })
const keepCloth = () =>
  state.do({
    kind: 'set_cloth',
    ...cloth,
    thickness: cloth.thickness || state.typed(0.5),
    prewashed: !!cloth.prewashed,
    own_rules: !!cloth.own_rules,
  })
async function keepForHouse() {
  if (await state.send(() => ask('post', '/api/jobs/{job_id}/house/keep', { params: { path: state.path }, headers: state.headers() })))
    say('New jobs start with these rules and cloths.')
}
</script>

<template>
  <div class="part">
    <h2>House rules</h2>
    <p class="soft">Edges whose allowance goes by the rule follow at once.</p>
    <ChosenField v-model="of" title="rules of" :choices="ruled" />
    <FormFields :fields="RULES" :values="typed" @set="(key, value) => Object.assign(typed, { [key]: value })" @change="keepRule" />
    <h2>Cloths</h2>
    <div class="row">
      <ToggleButton v-for="c in cloths" :key="c.name" :on="cloth.name === c.name" @click="pick(c.name)">{{ c.name }}</ToggleButton>
    </div>
    <form class="part" @submit.prevent="keepCloth">
      <FormFields :fields="CLOTH" :values="cloth" @set="(key, value) => Object.assign(cloth, { [key]: value })" />
      <v-btn type="submit" :disabled="!cloth.name.trim()">Save the cloth</v-btn>
    </form>
    <v-btn @click="keepForHouse">Let new jobs start with these</v-btn>
  </div>
</template>

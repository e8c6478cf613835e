<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import ClothPicture from '../../bench/ClothPicture.vue'
import { FEATURE_FORMS } from '../../logic/features'
import { ownEdges } from '../../logic/steps'
import { kindsOf, TASKS } from '../../logic/tasks'
import { useDraftBench, useOpenJob } from '../../state/keys'
import type { Field } from '../../ui/fields'
import AskedForm from '../../ui/AskedForm.vue'
import FormFields from '../../ui/FormFields.vue'
import NotchPart from './NotchPart.vue'
import type { FeatureWork } from './useFeature'

/** What a task puts on a panel: the one that is chosen, a new one, or all that are there. */
const props = defineProps<{ work: FeatureWork }>()
const state = useOpenJob()
const { job } = state
const draft = useDraftBench()
const { panel, task, chosenFeature } = draft
const { form, fresh, edge, begin, close, add, keep } = props.work
const PIVOT: readonly Field[] = [
  { key: 'edge', title: 'open it on', kind: 'edge' },
  { key: 'along', title: 'from that edge’s start' },
  { key: 'percent', title: 'how much of it, %' },
]
const DROP: readonly Field[] = [
  { key: 'drop', title: 'drop' },
  { key: 'tuck', title: 'tucked under' },
  {
    key: 'how',
    title: 'corners',
    kind: 'choice',
    choices: [
      { value: 'dart', title: 'darts' },
      { value: 'pleats', title: 'pleats' },
    ],
  },
]
/** So many of a panel's own are shown at once. */
const FEW = 3
const drop = reactive({ drop: '', tuck: '', how: 'dart' as 'dart' | 'pleats' })
const pivot = reactive({ edge: '', along: '', percent: '100' })
const turning = ref(false)
const kinds = computed(() => FEATURE_FORMS.filter((f) => kindsOf(task.value).includes(f.kind)))
const own = computed(() => (panel.value ? draft.features(panel.value) : []))
const listed = ref(own.value.length <= FEW)
watch([panel, task], () => (listed.value = own.value.length <= FEW))
const names = computed(() =>
  ownEdges(panel.value?.rings.slice(0, 1) ?? []).map((value) => ({
    value,
    title: panel.value?.rings[0]?.find((e) => e.of === value)?.own_name ?? '',
  })),
)
const pieces = computed(() => [
  ...(job.value?.pieces ?? []).map((p) => ({ value: p.id, title: `captured: ${p.name}` })),
  ...(job.value?.panels ?? []).filter((p) => p.id !== panel.value?.id).map((p) => ({ value: p.id, title: `panel: ${p.name}` })),
])
const lists = computed(() => ({ edge: [{ value: '', title: '—' }, ...names.value], piece: pieces.value }))
/** What is typed into the form of the chosen one until it is saved. */
const edits = reactive<{ of: string; values: Record<string, string> }>({ of: '', values: {} })
const values = computed(() => {
  if (!chosenFeature.value) return fresh.values
  return edits.of === chosenFeature.value.id ? { ...chosenFeature.value.values, ...edits.values } : chosenFeature.value.values
})
const stands = computed(() => names.value.find((n) => n.value === (values.value.edge ?? edge.value))?.title)
const edited = computed(() => !!chosenFeature.value && edits.of === chosenFeature.value.id)

function type(key: string, value: string) {
  if (!chosenFeature.value) fresh.values[key] = value
  else if (edited.value) edits.values[key] = value
  else Object.assign(edits, { of: chosenFeature.value.id, values: { [key]: value } })
}
const save = () => (chosenFeature.value ? keep(edits.values) : add())
const remove = (id: string) => state.do({ kind: 'remove_feature', feature: id })
const turn = () =>
  state.keep({ kind: 'pivot_dart', dart: chosenFeature.value!.id, edge: pivot.edge, along: pivot.along, share: pivot.percent })
const hang = () => state.keep({ kind: 'set_drop', panel: panel.value!.id, ...drop })
</script>

<template>
  <div v-if="panel" class="part">
    <template v-if="form">
      <div class="row">
        <ClothPicture :kind="form.kind" />
        <h2>
          {{ form.title }}<template v-if="form.onEdge && stands"> on {{ stands }}</template>
        </h2>
      </div>
      <p v-if="form.onEdge && !values.edge" class="said look">Point at the edge that it stands on.</p>
      <p v-if="form.placed && !form.fields.some((f) => f.part)" class="soft">Point at its place on the panel, or type it.</p>
      <AskedForm
        v-slot="{ refused }"
        :key="chosenFeature?.id ?? form.kind"
        class="part"
        placed
        :values="values"
        :send="save"
        @taken="edits.of = ''"
      >
        <FormFields :fields="form.fields" :values="values" :lists="lists" :refused="refused" @set="type" />
        <div class="row foot">
          <v-btn type="submit" color="primary" variant="flat" :disabled="chosenFeature ? !edited : form.onEdge && !values.edge">{{
            chosenFeature ? 'Save' : 'Add'
          }}</v-btn><v-btn @click="close">{{ chosenFeature ? 'All of them' : 'Cancel' }}</v-btn>
          <v-btn v-if="chosenFeature" color="error" :aria-label="`Remove: ${chosenFeature.words}`" @click="remove(chosenFeature.id)"
            >Remove</v-btn
          >
        </div>
      </AskedForm>
      <details v-if="chosenFeature?.kind === 'dart'" :open="turning" @toggle="turning = ($event.target as HTMLDetailsElement).open">
        <summary>Turn it about its point</summary>
        <p class="soft small">
          The dart closes here and opens elsewhere; less than all of it splits it in two.<template v-if="panel.has_ease">
            The panel’s ease is drawn into its outline first, and can be changed no more unless the turn is undone.</template
          >
        </p>
        <AskedForm v-slot="{ refused: wrong }" class="part" placed :values="pivot" :send="turn" @taken="turning = false">
          <FormFields
            :fields="PIVOT"
            :refused="wrong"
            :values="pivot"
            :lists="{ edge: names }"
            @set="(key, value) => Object.assign(pivot, { [key]: value })"
          />
          <v-btn type="submit" :disabled="pivot.edge === '' || !pivot.along">Turn it</v-btn>
        </AskedForm>
      </details>
    </template>
    <template v-else>
      <h2>{{ TASKS[task].does }}</h2>
      <details v-if="own.length" :open="listed" @toggle="listed = ($event.target as HTMLDetailsElement).open">
        <summary>{{ own.length }} on {{ panel.name }}</summary>
        <div v-for="f in own" :key="f.id" class="row between">
          <button class="words" @click="draft.pickFeature(panel.id, f.id)">{{ f.words }}</button>
          <v-btn size="small" height="44" :aria-label="`Remove: ${f.words}`" @click="remove(f.id)">Remove</v-btn>
        </div>
      </details>
      <p v-else class="soft">None on {{ panel.name }} yet.</p>
      <div class="choices" role="group" aria-label="Put on">
        <button v-for="f in kinds" :key="f.kind" @click="begin(f)"><ClothPicture :kind="f.kind" />{{ f.title }}</button>
      </div>
      <NotchPart v-if="task === 'mark'" />
      <details v-if="task === 'take_in'">
        <summary>Let it hang over an edge</summary>
        <p class="soft small">The seam line is the plan; the sheet hangs down all round, and each corner is taken in.</p>
        <AskedForm v-slot="{ refused: wrong }" class="part" placed :values="drop" :send="hang">
          <FormFields :fields="DROP" :refused="wrong" :values="drop" @set="(key, value) => Object.assign(drop, { [key]: value })" />
          <v-btn type="submit" :disabled="!drop.drop">Let it hang</v-btn>
        </AskedForm>
      </details>
    </template>
  </div>
</template>

<style scoped>
form.part {
  gap: 4px;
}
.words {
  text-decoration: underline dotted;
}
.foot {
  position: sticky;
  bottom: -10px;
  padding: 6px 0 10px;
  background: var(--paper);
}
</style>

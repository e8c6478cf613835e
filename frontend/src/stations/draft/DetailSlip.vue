<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import type { Panel } from '../../api/client'
import { FEATURE_FORMS, settingOf, type FeatureForm } from '../../logic/features'
import { asSet } from '../../logic/lies'
import { ownEdges } from '../../logic/steps'
import { useOpenJob } from '../../state/keys'
import type { Field } from '../../ui/fields'
import FormFields from '../../ui/FormFields.vue'

/** Darts, pleats, gathers, tapers, apertures, marks and layers of a panel: read, put on, changed, taken off. */
const props = defineProps<{ panel: Panel; chosen: readonly string[] }>()
const emit = defineEmits<{ point: [wanted: boolean] }>()
const state = useOpenJob()
const { job } = state
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
/** The form that is open, and the id of the feature that it changes; none for a new one. */
const open = ref<{ form: FeatureForm; id: string } | null>(null)
const values = reactive<Record<string, string>>({})
const drop = reactive({ drop: '', tuck: '', how: 'dart' as 'dart' | 'pleats' })

const outline = computed(() => ownEdges(props.panel.rings.slice(0, 1)))
const edge = computed(() => props.chosen.find((id) => outline.value.includes(id)) ?? null)
const names = computed(() =>
  outline.value.map((value) => ({ value, title: props.panel.rings[0]?.find((e) => e.of === value)?.own_name ?? '' })),
)
const pieces = computed(() => [
  ...(job.value?.pieces ?? []).map((p) => ({ value: p.id, title: `captured: ${p.name}` })),
  ...(job.value?.panels ?? []).filter((p) => p.id !== props.panel.id).map((p) => ({ value: p.id, title: `panel: ${p.name}` })),
])
const lists = computed(() => ({ edge: [{ value: '', title: '—' }, ...names.value], piece: pieces.value }))
const stands = computed(() => names.value.find((n) => n.value === (values.edge ?? edge.value))?.title)

function begin(form: FeatureForm, id = '', given: Record<string, string> = {}) {
  for (const key of Object.keys(values)) delete values[key]
  Object.assign(values, form.start, given)
  if (form.onEdge && !id && edge.value) values.edge = edge.value
  open.value = { form, id }
  emit('point', form.placed)
}
function close() {
  open.value = null
  emit('point', false)
}
watch(edge, (id) => {
  if (open.value?.form.onEdge && !open.value.id && id) values.edge = id
})
watch(() => props.panel.id, close)

async function keep() {
  const now = open.value
  if (now && (await state.do(settingOf(now.form, props.panel.id, now.id, values)))) close()
}
const remove = (feature: string) => state.do({ kind: 'remove_feature', feature })
const pivot = reactive({ edge: '', along: '', percent: '100' })
async function turn() {
  const dart = open.value?.id
  if (!dart) return
  if (await state.do({ kind: 'pivot_dart', dart, edge: pivot.edge, along: pivot.along, share: pivot.percent })) close()
}
const formOf = (kind: string) => FEATURE_FORMS.find((f) => f.kind === kind)!
const hang = () => state.do({ kind: 'set_drop', panel: props.panel.id, ...drop })

/** A place that was pointed at on the table, mm in the panel's frame; it is kept as a place on the outline as it was set. */
function pointed(on: { x: number; y: number }) {
  if (!open.value?.form.placed) return
  const at = asSet(on, props.panel.as_set)
  values.at_0 = state.typed(at.x)
  values.at_1 = state.typed(at.y)
  values.from_0 = values.from_1 = ''
}
defineExpose({ pointed })
</script>

<template>
  <div class="part">
    <template v-if="open">
      <h2>
        {{ open.form.title }}<template v-if="open.form.onEdge && stands"> on {{ stands }}</template>
      </h2>
      <p v-if="open.form.onEdge && values.edge === undefined" class="said look">Point at the edge that it stands on.</p>
      <p v-if="open.form.placed" class="soft">Point at its place on the panel, or type it.</p>
      <form class="part" @submit.prevent="keep">
        <FormFields
          :fields="open.form.fields"
          :values="values"
          @set="(key, value) => Object.assign(values, { [key]: value })"
          :lists="lists"
        />
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" :disabled="open.form.onEdge && values.edge === undefined">{{
            !open.id ? 'Add' : 'Save'
          }}</v-btn><v-btn @click="close">Cancel</v-btn>
        </div>
      </form>
      <details v-if="open.form.kind === 'dart' && open.id">
        <summary>Turn it about its point</summary>
        <p class="soft small">
          The dart closes here and opens elsewhere; less than all of it splits it in two.<template v-if="panel.has_ease">
            The panel’s ease is drawn into its outline first, and can be changed no more unless the turn is undone.</template
          >
        </p>
        <form class="part" @submit.prevent="turn">
          <FormFields
            :fields="PIVOT"
            :values="pivot"
            @set="(key, value) => Object.assign(pivot, { [key]: value })"
            :lists="{ edge: names }"
          />
          <v-btn type="submit" :disabled="pivot.edge === '' || !pivot.along">Turn it</v-btn>
        </form>
      </details>
    </template>
    <template v-else>
      <h2>On this panel</h2>
      <p v-if="!panel.features.length" class="soft">Nothing yet besides its edges.</p>
      <div v-for="f in panel.features" :key="f.id" class="row between">
        <button class="words" @click="begin(formOf(f.kind), f.id, f.values)">{{ f.words }}</button>
        <v-btn size="small" height="40" :aria-label="`Remove: ${f.words}`" @click="remove(f.id)">Remove</v-btn>
      </div>
      <div class="row">
        <v-btn v-for="f in FEATURE_FORMS" :key="f.kind" @click="begin(f)">{{ f.title }}</v-btn>
      </div>
      <details>
        <summary>Let it hang over an edge</summary>
        <p class="soft small">The seam line is the plan; the sheet hangs down all round, and each corner is taken in.</p>
        <form class="part" @submit.prevent="hang">
          <FormFields :fields="DROP" :values="drop" @set="(key, value) => Object.assign(drop, { [key]: value })" />
          <v-btn type="submit" :disabled="!drop.drop">Let it hang</v-btn>
        </form>
      </details>
    </template>
    <p class="soft small">Lengths in {{ job?.unit }}.</p>
  </div>
</template>

<style scoped>
.words {
  text-decoration: underline dotted;
}
</style>

<script setup lang="ts">
import { until } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { ask, type Panel, type Schemas } from '../../api/client'
import { ownEdges } from '../../logic/steps'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import { isUnderWay, usePolling } from '../../state/work'
import InlineChoice from '../../ui/InlineChoice.vue'
import TickField from '../../ui/TickField.vue'
import WorkProgress from '../../ui/WorkProgress.vue'

/** A filled pad: how its plan draws in and its corners stand out, with tapers and without, and tapers that mend it. */
type Filling = Schemas['FillingView']
type Pad = Schemas['PadView']
const props = defineProps<{ panel: Panel }>()
const emit = defineEmits<{ filled: [pad: Pad | null] }>()
const state = useOpenJob()
const { job } = state
const filling = shallowRef<Filling | null>(null)
const untapered = shallowRef<Pad | null>(null)
const inSteps = ref(false)
const curved = ref(false)
const PRESETS = [
  { value: 'lean', title: 'lean filling' },
  { value: 'usual', title: 'usual' },
  { value: 'full', title: 'full filling' },
] as const
const preset = ref<(typeof PRESETS)[number]['value']>('usual')

const pad = computed(() => filling.value?.pad ?? null)
const underWay = computed(() => isUnderWay(filling.value))
const busy = computed(() => underWay.value || inSteps.value)
const corners = computed(() => ownEdges(props.panel.rings.slice(0, 1)))
const tapers = computed(() => props.panel.features.filter((f) => f.kind === 'taper'))
const init = () => ({ params: { path: { ...state.path, panel_id: props.panel.id } } })
const PAD = '/api/jobs/{job_id}/panels/{panel_id}/pad'

function show(now: Filling | null) {
  // while it is filled anew, what it looked like is shown until it can be seen again
  const arePutOn = underWay.value && filling.value?.seeks_tapers && now?.status === 'done'
  filling.value = now && isUnderWay(now) && !now.pad ? { ...now, pad: pad.value } : now
  emit('filled', pad.value)
  if (now?.status === 'done' && !now.seeks_tapers && !tapers.value.length) untapered.value = now.pad
  if (arePutOn) state.load().catch(sayWrong)
}
async function look() {
  const { id } = props.panel
  const now = await ask('get', PAD, init())
  if (id === props.panel.id) show(now)
}
usePolling(look, () => underWay.value)

/** Fills it, and shows how it looks roughly and at the end; false where that was stopped or refused. */
async function fill(): Promise<boolean> {
  try {
    show(await ask('post', PAD, init()))
  } catch (e) {
    sayWrong(e)
    return false
  }
  await until(underWay).toBe(false)
  return filling.value?.status === 'done'
}
const put = () => state.do({ kind: 'set_tapers', panel: props.panel.id, edges: corners.value, preset: preset.value, curved: curved.value })

/** Do what takes several steps; what is shown stays until the last of them. */
async function stepByStep(steps: () => Promise<unknown>) {
  inSteps.value = true
  await steps()
  inSteps.value = false
}
const taper = () => stepByStep(async () => (await put()) && (await fill()))
/** The least tapers that keep the corners in are sought, and put on. */
async function propose() {
  try {
    show(await ask('post', `${PAD}/tapers`, { ...init(), body: { edges: corners.value, curved: curved.value } }))
  } catch (e) {
    sayWrong(e)
  }
}
const none = () =>
  stepByStep(async () => {
    for (const f of tapers.value) await state.do({ kind: 'remove_feature', feature: f.id })
    await fill()
  })
async function stop() {
  try {
    show(await ask('post', `${PAD}/stop`, init()))
  } catch (e) {
    sayWrong(e)
  }
}
onMounted(() => look().catch(sayWrong))
watch(
  () => props.panel.id,
  () => {
    filling.value = untapered.value = null
  },
)
// it may have been changed by another tool, or in another window
watch(
  () => props.panel,
  () => inSteps.value || look().catch(sayWrong),
)
</script>

<template>
  <div class="part">
    <h2>Filled as a pad</h2>
    <p v-if="!pad" class="soft">
      Two plies of this panel, filled as tight as they go: what its plan becomes, and how far its corners stand out beyond its sides.
    </p>
    <v-btn v-if="!underWay && filling?.status !== 'done'" color="primary" variant="flat" :disabled="busy" @click="fill()">Fill it</v-btn>
    <p v-if="filling?.sentence" class="said look" role="status">{{ filling.sentence }}</p>
    <WorkProgress v-if="filling && underWay" :work="filling" can-stop @stop="stop" />
    <template v-if="pad">
      <p class="said" :class="pad.enough ? '' : 'look'">
        Corners stand out by up to {{ pad.worst_percent }} % of the side{{
          pad.enough ? ': they won’t show as ears.' : '; below 2 % they don’t show as ears.'
        }}<template v-if="untapered && tapers.length"> Without tapers it was {{ untapered.worst_percent }} %.</template>
        <template v-if="filling?.seeks_tapers && !pad.enough && !busy">
          Even the deepest tapers don’t keep them in: take a firmer cloth, or fill it less.
        </template>
      </p>
      <p v-if="pad.corners.length" class="small">Corner by corner: {{ pad.corners.map((c) => c.stands_out).join(', ') }}.</p>
      <p class="small">
        It draws in by {{ pad.drawn_in }}, grows {{ pad.thickness }} thick and holds {{ pad.litres }} litres (by the formula for a flat bag
        {{ pad.formula_litres }}). Cut from the filled size that is wanted.
      </p>
      <p class="said look">Loose filling chokes and smothers: put it in an inner bag with a closed-off zip, away from small children.</p>
      <template v-if="!underWay">
        <div class="row">
          <InlineChoice v-model="preset" class="middling" :choices="PRESETS" aria-label="How full it will be" />
          <TickField v-model="curved" title="curved" />
        </div>
        <div class="row">
          <v-btn :disabled="busy" @click="taper">Taper all corners</v-btn>
          <v-btn :disabled="busy || pad.enough" @click="propose">Propose</v-btn>
          <v-btn v-if="tapers.length" :disabled="busy" @click="none">No tapers</v-btn>
          <v-btn v-if="tapers[0]" :href="`/api/jobs/${job?.id}/tapers/${tapers[0].id}/corner.pdf`" download>Corner template</v-btn>
        </div>
      </template>
    </template>
  </div>
</template>

<style scoped>
.middling {
  width: 120px;
}
</style>

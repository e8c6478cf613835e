<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { askForStream, type Panel, type Schemas } from '../../api/client'
import { jsonLines } from '../../logic/lines'
import { ownEdges } from '../../logic/steps'
import { sayWrong } from '../../state/notice'
import { useOpenJob } from '../../state/keys'
import TickField from '../../ui/TickField.vue'

/** A filled pad: how its plan draws in and its corners stand out, with tapers and without, and tapers that mend it. */
type Pad = Schemas['PadView']
const props = defineProps<{ panel: Panel }>()
const emit = defineEmits<{ filled: [pad: Pad | null] }>()
const state = useOpenJob()
const { job } = state
const pad = ref<Pad | null>(null)
const untapered = ref<Pad | null>(null)
const busy = ref('')
const share = ref(0)
const curved = ref(false)
const preset = ref<'usual' | 'lean' | 'full'>('usual')
let stopping = new AbortController()

const corners = computed(() => ownEdges(props.panel.rings.slice(0, 1)))
const tapers = computed(() => props.panel.features.filter((f) => f.kind === 'taper'))
const path = () => ({ ...state.path, panel_id: props.panel.id })

/** Fills it, and shows how it looks roughly and at the end; false where that was stopped or refused. */
async function fill(words = 'Filling it …'): Promise<boolean> {
  const { signal } = (stopping = new AbortController())
  busy.value = words
  share.value = 0
  try {
    const stream = await askForStream('/api/jobs/{job_id}/panels/{panel_id}/pad', path(), signal)
    for await (const step of jsonLines<Schemas['PadStep']>(stream)) {
      share.value = step.share
      if (!step.pad) continue
      pad.value = step.pad
      emit('filled', pad.value)
    }
    if (!tapers.value.length) untapered.value = pad.value
    return true
  } catch (e) {
    if (!signal.aborted) sayWrong(e)
    return false
  } finally {
    // a later filling may have begun meanwhile
    if (signal === stopping.signal) busy.value = ''
  }
}
const put = (deeper: boolean) =>
  state.do({ kind: 'set_tapers', panel: props.panel.id, edges: corners.value, preset: preset.value, curved: curved.value, deeper })
async function taper() {
  if (await put(false)) await fill()
}
/** Deeper and deeper tapers, until the corners stay in or there is no going deeper. */
async function propose() {
  for (let tried = 1; ; tried++) {
    if (!pad.value || (!pad.value.enough && pad.value.can_go_deeper)) {
      if (!(await put(true))) break
    }
    if (!(await fill(`Trying deeper tapers, ${tried} …`))) break
    if (!pad.value || pad.value.enough || !pad.value.can_go_deeper) break
  }
}
const stop = () => stopping.abort()
async function none() {
  for (const f of tapers.value) await state.do({ kind: 'remove_feature', feature: f.id })
  await fill()
}
onBeforeUnmount(stop)
watch(
  () => props.panel.id,
  () => {
    stop()
    pad.value = untapered.value = null
    emit('filled', null)
  },
)
</script>

<template>
  <div class="part">
    <h2>Filled as a pad</h2>
    <p class="soft">
      Two plies of this panel, filled as tight as they go: what its plan becomes, and how far its corners stand out beyond its sides.
    </p>
    <v-btn v-if="!pad" color="primary" variant="flat" :disabled="!!busy" @click="fill()">Fill it</v-btn>
    <template v-if="busy">
      <p class="said look" role="status">{{ busy }} <v-btn size="small" height="36" @click="stop">Stop</v-btn></p>
      <v-progress-linear :model-value="100 * share" color="primary" height="8" rounded aria-label="How far the filling is" />
    </template>
    <template v-if="pad">
      <p class="said" :class="pad.enough ? '' : 'look'">
        Corners stand out by up to {{ pad.worst_percent }} % of the side{{
          pad.enough ? ': they won’t show as ears.' : '; below 2 % they don’t show as ears.'
        }}<template v-if="untapered && tapers.length"> Without tapers it was {{ untapered.worst_percent }} %.</template>
      </p>
      <p v-if="!pad.enough && !pad.can_go_deeper && !busy" class="said look">
        No deeper taper keeps them in: take a firmer cloth, or fill it less.
      </p>
      <p v-for="(c, k) in pad.corners" :key="k" class="small">corner {{ k + 1 }}: {{ c.stands_out }}, {{ c.percent }} %</p>
      <p class="small">
        It draws in by {{ pad.drawn_in }}, grows {{ pad.thickness }} thick and holds {{ pad.litres }} litres (by the formula for a flat bag
        {{ pad.formula_litres }}). Cut from the filled size that is wanted.
      </p>
      <p class="said look">Loose filling chokes and smothers: put it in an inner bag with a closed-off zip, away from small children.</p>
      <div class="row">
        <select class="typed middling" v-model="preset" aria-label="How full it will be">
          <option value="lean">lean filling</option>
          <option value="usual">usual</option>
          <option value="full">full filling</option>
        </select>
        <TickField v-model="curved" title="curved" />
      </div>
      <div class="row">
        <v-btn :disabled="!!busy" @click="taper">Taper all corners</v-btn>
        <v-btn :disabled="!!busy || pad.enough || !pad.can_go_deeper" @click="propose">Propose</v-btn>
        <v-btn v-if="tapers.length" :disabled="!!busy" @click="none">No tapers</v-btn>
        <v-btn v-if="tapers[0]" :href="`/api/jobs/${job?.id}/tapers/${tapers[0].id}/corner.pdf`" download>Corner template</v-btn>
      </div>
    </template>
  </div>
</template>

<style scoped>
.middling {
  width: 120px;
}
</style>

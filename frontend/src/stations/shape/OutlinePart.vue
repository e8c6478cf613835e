<script setup lang="ts">
import { computed } from 'vue'
import { Refusal, type Schemas } from '../../api/client'
import { toSlider, toTolerance } from '../../logic/tolerance'
import { useOpenJob, useShapeBench } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import EntryField from '../../ui/EntryField.vue'
import ToggleButton from '../../ui/ToggleButton.vue'
import DoubtSlip from './DoubtSlip.vue'
import PhotoOutcome from './PhotoOutcome.vue'

/** The outline as a whole: its size, how sure it is, and how finely its edges follow the trace. */
const props = defineProps<{ placed: Schemas['PlacedPhoto'] | null; source: { photo: number; outline: number } | null }>()
const state = useOpenJob()
const { job } = state
const { work, table } = useShapeBench()
const { shape, asking } = table
const name = computed(() => job.value?.pieces.find((p) => p.id === job.value?.open_piece)?.name ?? '')
const latest = computed(() => job.value?.photos.at(-1) ?? null)
/** Whether stretches are left in doubt, each told of by itself. */
const inDoubt = computed(() => !!props.source && !!props.placed?.doubtful.some((s) => !s.is_settled))
/** In the latest photo no piece was told, and this one was walked round by hand. */
const walked = computed(() => latest.value?.id === shape.value?.photo && latest.value?.by_hand === shape.value?.outline)
let trying = 0
/** While the slider moves, the outline is shown as it would be; let go, it is kept. */
async function tryOut(e: Event) {
  const mine = ++trying
  const mm = toTolerance(Number((e.target as HTMLInputElement).value))
  try {
    const rings = await work.tryTolerance(mm)
    if (mine === trying) table.tried.value = rings
  } catch (err) {
    if (mine === trying) sayWrong(err)
  }
}
async function keepTried(e: Event) {
  trying++
  await work.setTolerance(state.typed(toTolerance(Number((e.target as HTMLInputElement).value))))
  table.tried.value = null
}
const step = (taken: Schemas['TakeStep']['step']) => state.keep({ kind: 'take_step', step: taken })
const keepTolerance = (tolerance_mm: string): Promise<Refusal | null> => step({ kind: 'find corners', tolerance_mm })
const smooth = (by_mm: string): Promise<Refusal | null> => (by_mm ? step({ kind: 'smooth', by_mm }) : Promise.resolve(null))
const rename = (to: string) => state.keep({ kind: 'name_piece', piece: job.value?.open_piece ?? '', name: to })
</script>

<template>
  <div v-if="shape && job" class="part">
    <div class="row between">
      <h2>{{ shape.width }} × {{ shape.height }} {{ job.unit }}</h2>
      <span v-if="shape.error" class="soft">± {{ shape.error }}</span>
    </div>
    <p class="said">{{ shape.verdict }}</p>
    <p v-if="shape.before.length" class="small">Dashed: as it was captured.</p>
    <PhotoOutcome v-if="latest" :photo="latest" :walked="walked" :folded="inDoubt" />
    <DoubtSlip v-if="placed && source" :placed="placed" :photo="source.photo" :outline="source.outline" />
    <div class="row between pointing">
      <span class="soft">Point at an edge or a corner to true it up.</span>
      <ToggleButton :on="asking === 'corner'" @click="table.ask('corner')">{{
        asking === 'corner' ? 'Point at the outline' : 'Add a corner'
      }}</ToggleButton>
    </div>
    <details class="whole">
      <summary>How closely edges follow the trace</summary>
      <label class="row between"
        >edges fit the trace to within<EntryField label="Tolerance" :value="shape.tolerance" :unit="job.unit" :keep="keepTolerance"
      /></label>
      <input
        type="range"
        min="0"
        max="100"
        :value="toSlider(shape.tolerance_mm)"
        aria-label="Try a tolerance"
        @input="tryOut"
        @change="keepTried"
      />
      <p class="soft small">Slide to try it: fewer corners to the right. Changing it finds all of them afresh.</p>
      <label class="row between"
        >smooth it by up to<EntryField
          label="Smooth by up to"
          :hint="job.unit === 'in' ? '1/64' : state.typed(0.5)"
          value=""
          :unit="job.unit"
          :keep="smooth"
      /></label>
    </details>
    <div class="row between pointing">
      <label class="row">called<EntryField words label="Name of the piece" :value="name" :keep="rename" /></label>
      <v-btn size="small" height="44" color="error" aria-label="Remove the piece" @click="work.removePiece(job.open_piece)">Remove</v-btn>
    </div>
  </div>
</template>

<style scoped>
.pointing {
  flex-wrap: nowrap;
}
.pointing > label {
  flex-wrap: nowrap;
}
.pointing > button {
  flex: none;
}
input[type='range'] {
  width: 100%;
  height: 44px;
  accent-color: var(--woad);
}
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { toSlider, toTolerance } from '../../logic/tolerance'
import { useOpenJob, useShapeBench } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import OldCoverSlip from './OldCoverSlip.vue'
import StepList from './StepList.vue'
import TapeList from './TapeList.vue'
import ToggleButton from '../../ui/ToggleButton.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'

/** What can be done with what is chosen on the outline, and with all of it. */
const state = useOpenJob()
const { job } = state
const { work, table } = useShapeBench()
const { shape, chosen, asking, folding, edge, corner, wanted } = table
const tolerance = ref('')
const smoothing = ref('')
watch(
  () => job.value?.revision,
  () => (tolerance.value = shape.value?.tolerance ?? ''),
  { immediate: true },
)
const letterOf = (k: number | undefined) => (k === undefined ? '' : (shape.value?.rings[0]?.joints[k]?.letter ?? ''))
const outer = computed(() => chosen.value?.ring === 0)
const KINDS = { line: 'Straighten', arc: 'Arc', curve: 'Curve', auto: 'Best fit' } as const
/** What the chosen edge is to be. */
const kind = computed(() => (wanted.value && wanted.value in KINDS ? (wanted.value as keyof typeof KINDS) : null))
const PARTS = { 2: 'Halves', 4: 'Quarters', 8: 'Eighths', 0: 'No marks' } as const

async function setTolerance() {
  if (!(await work.setTolerance(tolerance.value))) tolerance.value = shape.value?.tolerance ?? ''
}
let trying = 0
/** While the slider moves, the outline is shown as it would be; let go, it is kept. */
async function tryOut(e: Event) {
  const mine = ++trying
  const mm = toTolerance(Number((e.target as HTMLInputElement).value))
  tolerance.value = state.typed(mm)
  try {
    const rings = await work.tryTolerance(mm)
    if (mine === trying) table.tried.value = rings
  } catch (err) {
    if (mine === trying) sayWrong(err)
  }
}
async function keepTried() {
  trying++
  await setTolerance()
  table.tried.value = null
}
async function smooth() {
  if (await work.smooth(smoothing.value)) smoothing.value = ''
}
function fold(keep: Schemas['FoldOver']['keep']) {
  const [first, second] = folding.value ?? [0, 0]
  table.drop()
  return work.fold(first, second, keep)
}
const rename = (e: Event) => work.namePiece(job.value?.open_piece ?? '', (e.target as HTMLInputElement).value)
</script>

<template>
  <template v-if="shape && job">
    <template v-if="folding">
      <h2>Fold {{ letterOf(folding[0]) }} – {{ letterOf(folding[1]) }}</h2>
      <p>Both halves become alike. What are they made of?</p>
      <div class="row" role="group" aria-label="What both halves become">
        <v-btn color="primary" variant="flat" @click="fold('average')">Both, averaged</v-btn>
        <v-btn @click="fold('left')">The left half</v-btn>
        <v-btn @click="fold('right')">The right half</v-btn>
        <v-btn variant="text" @click="folding = null">Cancel</v-btn>
      </div>
      <p class="soft small">Left and right as seen from {{ letterOf(folding[0]) }} towards {{ letterOf(folding[1]) }}.</p>
    </template>
    <template v-else-if="edge">
      <div class="row between">
        <h2>Edge {{ edge.name }}</h2>
        <span class="soft small">{{ edge.kind }}{{ edge.radius ? ` r ${edge.radius}` : '' }}</span>
      </div>
      <p>{{ edge.length }} {{ job.unit }} long; it fits the trace to within {{ edge.strays }}.</p>
      <ChoiceRow
        label="What this edge is"
        :choices="KINDS"
        :model-value="kind"
        @update:model-value="(kind) => kind && work.setKind(chosen!.ring, chosen!.edge!, kind)"
      />
      <div class="row">
        <ToggleButton :on="asking === 'parallel'" @click="table.ask('parallel')">{{
          asking === 'parallel' ? 'Now the other edge' : 'Parallel with …'
        }}</ToggleButton>
        <ToggleButton :on="asking === 'equal'" @click="table.ask('equal')">{{
          asking === 'equal' ? 'Now the other edge' : 'As long as …'
        }}</ToggleButton>
        <v-btn v-if="outer" @click="work.measureAlong(chosen!.edge!)">Add to the tape list</v-btn>
      </div>
    </template>
    <template v-else-if="corner">
      <div class="row between">
        <h2>Corner {{ corner.letter }}</h2>
        <span class="soft small">{{ corner.smooth ? 'runs on smoothly' : 'sharp' }}</span>
      </div>
      <p class="soft">Drag it, or nudge it with the arrow keys (Shift for more).</p>
      <div class="row">
        <ToggleButton v-if="outer" :on="asking === 'measure'" @click="table.ask('measure')">{{
          asking === 'measure' ? 'Now the other corner' : 'Measure from here'
        }}</ToggleButton>
        <v-btn @click="work.square(chosen!.ring, chosen!.corner!)">Make it square</v-btn>
        <v-btn @click="work.setSmooth(chosen!.ring, chosen!.corner!, !corner.smooth)">{{
          corner.smooth ? 'Make it sharp' : 'Let it run smoothly'
        }}</v-btn>
        <ToggleButton v-if="outer" :on="asking === 'fold'" @click="table.ask('fold')">{{
          asking === 'fold' ? 'Now where the fold ends' : 'Fold from here'
        }}</ToggleButton>
        <v-btn color="error" @click="table.removeCorner">Remove it</v-btn>
      </div>
      <div v-if="outer" class="row" role="group" aria-label="Mark parts of the way round from here">
        <span class="soft small">mark from here</span>
        <v-btn v-for="parts in [2, 4, 8, 0] as const" :key="parts" size="small" @click="work.divide(chosen!.corner!, parts)">{{
          PARTS[parts]
        }}</v-btn>
      </div>
    </template>
    <template v-else>
      <div class="row between">
        <h2>{{ shape.width }} × {{ shape.height }} {{ job.unit }}</h2>
        <span v-if="shape.error" class="soft">± {{ shape.error }}</span>
      </div>
      <p class="said">{{ shape.verdict }}</p>
      <p class="soft">Point at an edge or a corner to true it up.</p>
    </template>
    <div class="row">
      <ToggleButton :on="asking === 'corner'" @click="table.ask('corner')">{{
        asking === 'corner' ? 'Point at the outline' : 'Add a corner'
      }}</ToggleButton>
    </div>
    <TapeList />
    <form class="line" @submit.prevent="smooth">
      smooth it by up to <input v-model="smoothing" class="typed" inputmode="decimal" aria-label="Smooth by up to" placeholder="0.5" />
      {{ job.unit }} <v-btn size="small" type="submit" :disabled="!smoothing">Smooth</v-btn>
    </form>
    <div>
      <label class="line"
        >edges fit the trace to within <input v-model="tolerance" class="typed" inputmode="decimal" @change="setTolerance" />
        {{ job.unit }}</label
      >
      <input
        type="range"
        min="0"
        max="100"
        :value="toSlider(shape.tolerance_mm)"
        aria-label="Try a tolerance"
        @input="tryOut"
        @change="keepTried"
      />
      <p class="soft small">Slide to try it. Changing it finds all corners afresh.</p>
    </div>
    <OldCoverSlip />
    <StepList />
    <div class="line">
      <label class="line"
        >this piece is called
        <input class="typed name" :value="job.pieces.find((p) => p.id === job?.open_piece)?.name" maxlength="80" @change="rename" /></label
      ><v-btn size="small" variant="text" @click="work.removePiece(job.open_piece)">Remove the piece</v-btn>
    </div>
  </template>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px;
}
input[type='range'] {
  width: 100%;
  height: 44px;
  accent-color: var(--woad);
}
.line .typed {
  width: 62px;
}
.line .name {
  width: 150px;
}
</style>

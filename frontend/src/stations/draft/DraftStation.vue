<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../../api/client'
import BenchTable from '../../bench/BenchTable.vue'
import CoverSheet from './CoverSheet.vue'
import CoverSlip from './CoverSlip.vue'
import DetailSlip from './DetailSlip.vue'
import EdgeSlip from './EdgeSlip.vue'
import EdgeTable from './EdgeTable.vue'
import FitSlip from './FitSlip.vue'
import HouseSlip from './HouseSlip.vue'
import JoinSlip from './JoinSlip.vue'
import LabelSlip from './LabelSlip.vue'
import MeasureTag from '../../bench/MeasureTag.vue'
import PadSlip from './PadSlip.vue'
import PanelDrawing, { type Look } from './PanelDrawing.vue'
import PinnedSlip from '../../bench/PinnedSlip.vue'
import ReadFile from './ReadFile.vue'
import { useLaidOut } from '../../state/laid'
import { flagsOf } from '../../logic/joins'
import { bareEdges, chosenAfter, ownEdges, step } from '../../logic/steps'
import { useOpenJob } from '../../state/keys'
import '../../bench/station.css'
import { useShortcuts } from '../../state/shortcuts'
import ChosenField from '../../ui/ChosenField.vue'
import ToggleButton from '../../ui/ToggleButton.vue'

type Hand = 'edges' | 'move' | 'measure'
type Page = 'label' | 'ease' | 'details' | 'pad' | 'joins' | 'cover' | 'house'
const PAGES: readonly { key: Page; title: string }[] = [
  { key: 'label', title: 'Label' },
  { key: 'ease', title: 'Ease' },
  { key: 'details', title: 'Details' },
  { key: 'pad', title: 'Pad' },
  { key: 'joins', title: 'Joins' },
  { key: 'cover', title: 'Cover' },
  { key: 'house', title: 'House' },
]
/** Pages on which chosen edges stay chosen. */
const ON_EDGES: readonly Page[] = ['details', 'joins']
const HANDS = { edges: 'Choose edges', move: 'Move panels', measure: 'Measure' } as const
const LOOKS = { cut: 'as cut', sewn: 'as sewn', folded: 'folded' } as const
const state = useOpenJob()
const { job } = state
/** Captured pieces that no panel is called after. */
const unmade = computed(() => (job.value?.pieces ?? []).filter((piece) => !panels.value.some((p) => p.name === piece.name)))
async function makePanels() {
  if (await state.do({ kind: 'make_panels' })) showLast()
}
/** The panel that is worked on, by its id. */
const at = ref('')
const chosen = shallowRef<string[]>([])
const hand = ref<Hand>('edges')
const look = ref<Look>('cut')
const page = ref<Page>('label')
const listing = ref(false)
/** The edges of the join that is shown. */
const joined = shallowRef<string[]>([])
/** The cover whose measures are asked, by its id; empty for a new one, null for none. */
const covering = ref<string | null>(useRoute().query.cover === 'new' ? '' : null)
const pad = shallowRef<Schemas['PadView'] | null>(null)
const pointing = ref(false)
const slip = ref<InstanceType<typeof EdgeSlip> | null>(null)
const details = ref<InstanceType<typeof DetailSlip> | null>(null)
const table = ref<InstanceType<typeof BenchTable> | null>(null)
const reader = useTemplateRef<InstanceType<typeof ReadFile>>('reader')
const panelName = ref('panel')

const panels = computed(() => job.value?.panels ?? [])
const panel = computed(() => panels.value.find((p) => p.id === at.value) ?? null)
const laid = useLaidOut(state, table)
const all = computed(() => (panel.value ? ownEdges(panel.value.rings) : []))
const asked = computed(() => job.value?.covers.find((c) => c.id === covering.value) ?? null)
const bare = computed(() => bareEdges(panels.value))

watch(
  [panels, at],
  (_, [before]) => {
    // where the panel is gone, the one that lies in its place
    const place = before?.findIndex((p) => p.id === at.value) ?? 0
    if (!panel.value) at.value = panels.value[Math.min(Math.max(place, 0), panels.value.length - 1)]?.id ?? ''
    chosen.value = chosen.value.filter((id) => all.value.includes(id))
  },
  { immediate: true },
)
watch(hand, (now) => {
  laid.clear()
  if (now === 'move') laid.hold(at.value)
})

async function makePanel() {
  const name = panelName.value.trim()
  if (await state.do({ kind: 'make_panel', name })) showLast()
}
/** The panel that is worked on, or in hand where panels are moved. */
function choose(id: string) {
  at.value = id
  chosen.value = []
  if (hand.value === 'move') laid.hold(id)
}
const showLast = () => (at.value = panels.value.at(-1)?.id ?? '')
function pick(id: string, edge: string, more: boolean) {
  chosen.value = chosenAfter(id === at.value ? chosen.value : [], edge, more && id === at.value)
  at.value = id
  if (!ON_EDGES.includes(page.value)) page.value = 'label'
}
function grab(id: string, e: PointerEvent) {
  if (hand.value !== 'move') return
  e.stopPropagation()
  at.value = id
  laid.grab(id, e)
}
function point(p: { x: number; y: number }) {
  if (hand.value === 'measure') laid.measureTo(p)
  else if (pointing.value && page.value === 'details') details.value?.pointed(laid.inPanel(at.value, p))
  else if (hand.value === 'edges') chosen.value = []
}
function show(key: Page) {
  page.value = key
  chosen.value = ON_EDGES.includes(key) ? chosen.value : []
}
function drafted() {
  covering.value = null
  page.value = 'cover'
  if (!panel.value) showLast()
}
/** The edges of a join are chosen on the table. */
function showJoin(join: Schemas['JoinView']) {
  joined.value = [...join.first, ...join.second].map((e) => e.edge)
  at.value = join.first[0]?.panel ?? at.value
  chosen.value = []
}
async function copy(mirror: boolean) {
  if (await state.do({ kind: 'copy_panel', panel: at.value, mirror })) showLast()
}
const onEdges = () => !!panel.value && !listing.value && covering.value === null
// with an edge chosen, figures are typed to it
useShortcuts({
  leave: () => {
    if (listing.value) listing.value = false
    covering.value = null
    chosen.value = []
    laid.clear()
    hand.value = 'edges'
  },
  move: () => (onEdges() ? (hand.value = hand.value === 'move' ? 'edges' : 'move') : false),
  turn: (e) => hand.value === 'move' && laid.turn(e.shiftKey ? 15 : 90),
  flip: () => hand.value === 'move' && laid.flip(),
  arrows: (e) => {
    if (!onEdges()) return false
    if (hand.value === 'move' && laid.nudge(e)) return true
    if (e.key !== 'ArrowRight' && e.key !== 'ArrowLeft') return false
    const next = step(all.value, chosen.value.at(-1) ?? null, e.key === 'ArrowRight' ? 1 : -1)
    if (next) chosen.value = chosenAfter(chosen.value, next, e.shiftKey)
    if (!ON_EDGES.includes(page.value)) page.value = 'label'
    return true
  },
  all: () => (onEdges() ? (chosen.value = all.value) : false),
  figures: (e) => (onEdges() && chosen.value.length ? slip.value?.type(e.key) : false),
})
</script>

<template>
  <div v-if="job" class="station">
    <div class="stack">
      <BenchTable ref="table" bar-high :box="laid.box.value" :unit="job.unit" label="Panels on the table" @point="point">
        <template #default="{ px }">
          <PanelDrawing
            v-for="p in panels"
            :key="p.id"
            :panel="p"
            :lie="laid.lies.value.get(p.id)!"
            :px="px"
            :unit="job.unit"
            :chosen="chosen"
            :active="p.id === at"
            :joined="page === 'joins' ? joined : []"
            :look="look"
            :flags="flagsOf(job.joins, p.id)"
            :dots="job.corner_dots.filter((d) => d.panel === p.id).map((d) => d.at)"
            :still="hand !== 'edges'"
            :class="{ moving: laid.held.value.includes(p.id) }"
            @pick="(edge, more) => pick(p.id, edge, more)"
            @grab="(e) => grab(p.id, e)"
          />
          <PanelDrawing
            v-for="c in laid.companions.value"
            :key="c.panel.name"
            :panel="c.panel"
            :lie="c.lie"
            :px="px"
            :unit="job.unit"
            :chosen="[]"
            :active="false"
            :look="look"
            still
          />
          <rect
            v-for="b in laid.frames.value"
            :key="b.join()"
            class="held"
            :x="b[0]"
            :y="-b[1] - b[3]"
            :width="b[2]"
            :height="b[3]"
            :stroke-width="2 * px"
            :stroke-dasharray="`${8 * px} ${5 * px}`"
          />
          <g v-if="pad && panel && page === 'pad'" :transform="laid.transform(panel.id)"
            ><path :d="pad.plan" class="filled" :stroke-width="3 * px" /><circle
              v-for="(c, k) in pad.corners"
              :key="k"
              :cx="c.at[0]"
              :cy="-c.at[1]"
              :r="4 * px"
              class="meant"
          /></g>
          <template v-if="laid.measured.value">
            <line
              class="measure"
              :x1="laid.measured.value.a.x"
              :y1="-laid.measured.value.a.y"
              :x2="laid.measured.value.b.x"
              :y2="-laid.measured.value.b.y"
              :stroke-width="2 * px"
            />
            <MeasureTag
              :x="(laid.measured.value.a.x + laid.measured.value.b.x) / 2"
              :y="-(laid.measured.value.a.y + laid.measured.value.b.y) / 2"
              :px="px"
              :text="laid.measured.value.text"
              chosen
            />
          </template>
          <circle
            v-if="laid.from.value"
            class="measure"
            :cx="laid.from.value.x"
            :cy="-laid.from.value.y"
            :r="6 * px"
            :stroke-width="2 * px"
          />
        </template>
        <template v-if="panels.length" #tools>
          <span class="group" role="group" aria-label="What the hand does"
            ><ToggleButton v-for="(title, key) in HANDS" :key="key" variant="flat" height="44" :on="hand === key" @click="hand = key">{{
              title
            }}</ToggleButton></span
          >
          <span class="group" role="group" aria-label="How the panels are shown"
            ><ToggleButton v-for="(title, key) in LOOKS" :key="key" variant="flat" height="44" :on="look === key" @click="look = key">{{
              title
            }}</ToggleButton></span
          >
        </template>
      </BenchTable>
      <p v-if="panels.length" class="hint soft small">
        {{
          hand === 'move'
            ? 'Drag, or ← → ↑ ↓ (with Shift ten times as far); r turns, x flips; Shift takes several.'
            : hand === 'measure'
              ? 'Point at two places; corners and middles catch.'
              : 'Step through edges with ← →, type to set; a takes all, m moves panels.'
        }}
      </p>
      <EdgeTable v-if="listing" @close="listing = false" />
      <CoverSheet v-if="covering !== null" :key="covering" :cover="asked" @close="covering = null" @drafted="drafted" />
      <div v-if="!panels.length" class="start">
        <template v-if="job.shape">
          <h2>The outline is ready to become a panel.</h2>
          <form class="row" @submit.prevent="makePanel">
            <v-text-field v-model="panelName" label="Name on its label" maxlength="80" autofocus /><v-btn
              type="submit"
              color="primary"
              variant="flat"
              height="48"
              :disabled="!panelName.trim()"
              >Make the panel</v-btn
            >
          </form>
          <v-btn v-if="unmade.length > 1" height="48" @click="makePanels">Make panels of all {{ unmade.length }} pieces</v-btn>
        </template>
        <template v-else>
          <h2>Draft needs an outline first.</h2>
          <v-btn color="primary" variant="flat" :to="{ name: 'job', params: { id: job.id, station: 'shape' } }">Photograph the piece</v-btn>
        </template>
        <p class="soft">Or without an outline:</p>
        <div class="row">
          <v-btn @click="covering = ''">Draft a cover from measures</v-btn
          ><v-btn @click="reader?.open()">Read an SVG, DXF or panels file</v-btn>
        </div>
      </div>
      <ReadFile ref="reader" @done="at = $event" />
    </div>
    <PinnedSlip>
      <template v-if="panel">
        <ChosenField
          v-if="panels.length > 4"
          :model-value="at"
          title="panel"
          :choices="panels.map((p) => ({ value: p.id, title: p.name }))"
          @update:model-value="choose($event ?? '')"
        />
        <div v-else-if="panels.length > 1" class="row" role="group" aria-label="Panels">
          <ToggleButton v-for="p in panels" :key="p.id" :on="p.id === at" @click="choose(p.id)">{{ p.name }}</ToggleButton>
        </div>
        <nav class="pages" aria-label="About this panel">
          <button
            v-for="g in PAGES"
            :key="g.key"
            :aria-pressed="page === g.key && !(chosen.length && g.key === 'label')"
            @click="show(g.key)"
          >
            {{ g.title }}
          </button>
        </nav>
        <EdgeSlip v-if="chosen.length && page === 'label'" ref="slip" :panel="panel" :chosen="chosen" />
        <LabelSlip v-else-if="page === 'label'" :panel="panel" @removed="chosen = []" />
        <FitSlip v-else-if="page === 'ease'" :panel="panel" />
        <DetailSlip v-else-if="page === 'details'" ref="details" :panel="panel" :chosen="chosen" @point="pointing = $event" />
        <PadSlip v-else-if="page === 'pad'" :panel="panel" @filled="pad = $event" />
        <JoinSlip v-else-if="page === 'joins'" :chosen="chosen" @show="showJoin" @joined="chosen = []" />
        <CoverSlip v-else-if="page === 'cover'" @measures="covering = $event" />
        <HouseSlip v-else />
        <hr />
        <div v-if="page === 'label'" class="row">
          <v-btn v-if="!chosen.length" @click="chosen = all">Choose all edges</v-btn>
          <v-btn v-else @click="chosen = []">The label</v-btn>
          <v-btn @click="listing = true">All edges</v-btn>
          <v-btn @click="copy(false)">Copy</v-btn>
          <v-btn @click="copy(true)">Mirror image</v-btn>
          <v-btn @click="reader?.open()">Read a file</v-btn>
          <form v-if="job.shape && !chosen.length" class="row" @submit.prevent="makePanel">
            <v-text-field v-model="panelName" label="Another panel of the outline" density="compact" maxlength="80" class="wide" /><v-btn
              type="submit"
              :disabled="!panelName.trim()"
              >Make</v-btn
            >
          </form>
          <v-btn v-if="unmade.length && !chosen.length" @click="makePanels"
            >Make panels of {{ unmade.length === 1 ? `“${unmade[0]?.name}”` : `${unmade.length} more pieces` }}</v-btn
          >
        </div>
      </template>
      <template v-else
        ><h2>No panel yet</h2>
        <p class="soft">A panel is the outline as a seam line; each of its edges then gets its own allowance and finish.</p></template
      >
      <p v-if="bare" class="said stop">{{ bare === 1 ? '1 edge needs an allowance' : `${bare} edges need an allowance` }}; shown in red.</p>
    </PinnedSlip>
  </div>
</template>

<style scoped>
.start {
  position: absolute;
  inset: 16% 8% auto;
  display: grid;
  justify-items: center;
  gap: 16px;
  text-align: center;
}
.start h2 {
  font-size: 24px;
}
.start form {
  min-width: 420px;
}
.hint {
  position: absolute;
  left: 14px;
  top: 12px;
  padding: 4px 12px;
  border-radius: 14px;
  background: color-mix(in srgb, var(--paper) 85%, transparent);
  pointer-events: none;
}
.group {
  display: flex;
  border-radius: 22px;
  overflow: hidden;
}
.group :deep(.v-btn) {
  border-radius: 0;
  min-width: 0;
  padding: 0 12px;
}
.group :deep(.v-btn.on) {
  background: var(--woad-pale);
  color: var(--woad);
  border: 0;
}
.pages {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  border-bottom: 1px solid var(--hairline);
}
.pages button {
  min-height: 44px;
  font: inherit;
  font-weight: 600;
  color: var(--soft-ink);
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  cursor: pointer;
}
.pages button[aria-pressed='true'] {
  color: var(--ink);
  border-bottom-color: var(--woad);
}
.held {
  fill: none;
  stroke: var(--woad);
  pointer-events: none;
}
.measure {
  stroke: var(--woad);
  fill: none;
  pointer-events: none;
}
.filled {
  fill: var(--tape);
  fill-opacity: 0.55;
  stroke: var(--weld);
  pointer-events: none;
}
.meant {
  fill: var(--madder);
  pointer-events: none;
}
.wide {
  min-width: 180px;
}
hr {
  border: 0;
  border-top: 1px solid var(--hairline);
}
@media (max-width: 900px) {
  .hint {
    display: none;
  }
  .start form {
    min-width: 0;
  }
}
</style>

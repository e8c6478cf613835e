<script setup lang="ts">
import { computed, provide, ref, shallowReactive, shallowRef, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Panel, Schemas } from '../../api/client'
import BenchTable from '../../bench/BenchTable.vue'
import MeasureTag from '../../bench/MeasureTag.vue'
import TableDrawing from '../../bench/TableDrawing.vue'
import ToolRoll from '../../bench/ToolRoll.vue'
import '../../bench/station.css'
import { flagsOf } from '../../logic/joins'
import type { Bounds } from '../../logic/labelPlace'
import { STILL, TASKS, type Task } from '../../logic/tasks'
import { useDraft } from '../../state/draft'
import { draftKey, labelsKey, useOpenJob } from '../../state/keys'
import { useLaidOut } from '../../state/laid'
import { useShortcuts } from '../../state/shortcuts'
import ToggleButton from '../../ui/ToggleButton.vue'
import CoverSheet from './CoverSheet.vue'
import DraftSlip from './DraftSlip.vue'
import DraftTags from './DraftTags.vue'
import EdgeTable from './EdgeTable.vue'
import HeldFrame from './HeldFrame.vue'
import PanelDrawing, { type Look } from './PanelDrawing.vue'
import ReadFile from './ReadFile.vue'
import StartHere from './StartHere.vue'
import { useFeature } from './useFeature'

const ALL_TASKS = Object.keys(TASKS) as Task[]
const LOOKS = { cut: 'as cut', sewn: 'as sewn', folded: 'folded' } as const
const state = useOpenJob()
const { job } = state
const draft = useDraft(state)
provide(draftKey, draft)
provide(labelsKey, shallowReactive(new Map()))
const { task, at, chosen, corner, feature, panels, panel, chosenJoin } = draft
const work = useFeature(draft)
const look = ref<Look>('cut')
const listing = ref(false)
/** The cover whose measures are asked, by its id; empty for a new one, null for none. */
const covering = ref<string | null>(useRoute().query.cover === 'new' ? '' : null)
const pad = shallowRef<Schemas['PadView'] | null>(null)
const covered = shallowRef<Bounds | null>(null)
const table = ref<InstanceType<typeof BenchTable> | null>(null)
const tags = useTemplateRef('tags')
const reader = useTemplateRef('reader')
const laid = useLaidOut(state, table)
/** The panel that was pressed, until it is let go. */
let pressed = ''

const asked = computed(() => job.value?.covers.find((c) => c.id === covering.value) ?? null)
const still = computed(() => STILL.includes(task.value))
const joined = computed(() => [
  ...draft.oneSide.value,
  ...[...(chosenJoin.value?.first ?? []), ...(chosenJoin.value?.second ?? [])].map((e) => e.edge),
])
/** What else is drawn on a panel, by its id: the same objects until it changes, so that no other panel is drawn anew. */
const shownOn = computed(() => {
  const { joins = [], corner_dots = [] } = job.value ?? {}
  const of = (p: Panel) => ({
    pins: draft.features(p),
    flags: flagsOf(joins, p.id),
    dots: corner_dots.filter((d) => d.panel === p.id).map((d) => d.at),
  })
  return new Map(panels.value.map((p) => [p.id, of(p)]))
})
const NONE: readonly string[] = []
const onTable = () => panels.value.length > 0 && !listing.value && covering.value === null

watch(task, (now) => {
  laid.clear()
  if (now === 'move') laid.hold(at.value)
})
watch(at, (id) => task.value === 'move' && laid.hold(id))

function press(id: string, e: PointerEvent) {
  pressed = id
  if (task.value !== 'move') return
  e.stopPropagation()
  at.value = id
  laid.grab(id, e)
}
function point(p: { x: number; y: number }) {
  const on = pressed
  pressed = ''
  if (task.value === 'measure') laid.measureTo(p)
  else if (panel.value && (!on || on === at.value) && work.point(laid.inPanel(at.value, p))) return
  else if (on && on !== at.value) draft.choosePanel(on)
  else if (on) draft.drop()
  else if (task.value === 'allow') draft.leave()
}
function flag(letters: string) {
  const own = letters.split(' ')
  // a flag of several joins leads from one to the next
  const now = own.indexOf(chosenJoin.value?.letter ?? '')
  const next = job.value?.joins.find((j) => j.letter === own[(now + 1) % own.length])
  if (next) draft.pickJoin(next.id)
}
function drafted() {
  covering.value = null
  draft.take('allow')
  at.value = ''
  draft.cover.value = job.value?.covers.at(-1)?.id ?? ''
}
useShortcuts({
  leave: () => {
    if (listing.value) return (listing.value = false)
    if (covering.value !== null) return (covering.value = null)
    laid.clear()
    return draft.leave()
  },
  move: () => (onTable() ? draft.take(task.value === 'move' ? 'allow' : 'move') : false),
  turn: (e) => task.value === 'move' && laid.turn(e.shiftKey ? 15 : 90),
  flip: () => task.value === 'move' && laid.flip(),
  arrows: (e) => {
    if (!onTable()) return false
    if (task.value === 'move' && laid.nudge(e)) return true
    return (e.key === 'ArrowRight' || e.key === 'ArrowLeft') && draft.stepEdge(e.key === 'ArrowRight' ? 1 : -1, e.shiftKey)
  },
  all: () => (onTable() && panel.value ? ((task.value = 'allow'), (chosen.value = draft.all.value)) : false),
  // with an edge chosen, figures are typed to it
  figures: (e) => (onTable() && draft.subject.value === 'edges' && tags.value ? tags.value.type(e.key) : false),
})
</script>

<template>
  <div v-if="job" class="station">
    <div class="stack" :class="{ tooled: panels.length }">
      <ToolRoll v-if="panels.length" :tools="TASKS" :keys="ALL_TASKS" :model-value="task" @update:model-value="draft.take" />
      <BenchTable
        ref="table"
        :box="laid.box.value"
        :work="panels.map((p) => p.id).join()"
        :unit="job.unit"
        label="Panels on the table"
        @point="point"
      >
        <template #laid="{ px }">
          <TableDrawing v-for="p in panels" :key="p.id" :lifted="laid.held.value.includes(p.id)" :shift="laid.shiftOf(p.id)">
            <PanelDrawing
              :panel="p"
              :lie="laid.drawnLies.value.get(p.id)!"
              :px="px"
              :unit="job.unit"
              :chosen="chosen"
              :corner="corner"
              :active="p.id === at"
              :tagged="p.id === at && draft.subject.value === 'edges' ? chosen.at(-1) : undefined"
              :joined="joined"
              :joining="task === 'join'"
              v-bind="shownOn.get(p.id)"
              :pinned="feature"
              :look="look"
              :boxes="laid.boxes.value"
              :covered="p.id === at ? covered : null"
              :still="still"
              @pick="(edge, more) => draft.pickEdge(p.id, edge, more)"
              @corner="(edge) => draft.pickCorner(p.id, edge)"
              @pin="(id) => draft.pickFeature(p.id, id)"
              @flag="flag"
              @press="(e) => press(p.id, e)"
            />
            <HeldFrame v-if="laid.frameOf(p.id)" :box="laid.frameOf(p.id)!" :px="px" />
          </TableDrawing>
        </template>
        <template #default="{ px }">
          <PanelDrawing
            v-for="c in laid.companions.value"
            :key="c.panel.name"
            :panel="c.panel"
            :lie="c.lie"
            :px="px"
            :unit="job.unit"
            :chosen="NONE"
            :active="false"
            :look="look"
            :boxes="laid.boxes.value"
            still
          />
          <g v-if="pad && panel && task === 'fill'" :transform="laid.transform(panel.id)"
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
        <template #above="{ seen, size }">
          <DraftTags
            v-if="!still && !listing"
            ref="tags"
            :lies="laid.lies.value"
            :boxes="laid.boxes.value"
            :seen="seen"
            :room="size"
            :work="work"
            @covers="covered = $event"
          />
        </template>
        <template v-if="panels.length" #tools>
          <span class="group" role="group" aria-label="How the panels are shown"
            ><ToggleButton v-for="(title, key) in LOOKS" :key="key" variant="flat" height="44" :on="look === key" @click="look = key">{{
              title
            }}</ToggleButton></span
          >
        </template>
      </BenchTable>
      <EdgeTable v-if="listing" @close="listing = false" />
      <CoverSheet v-if="covering !== null" :key="covering" :cover="asked" @close="covering = null" @drafted="drafted" />
      <StartHere v-if="!panels.length" @measures="covering = ''" @read="reader?.open()" />
      <ReadFile ref="reader" @done="draft.choosePanel($event)" />
    </div>
    <DraftSlip
      :work="work"
      :laid="laid"
      @filled="pad = $event"
      @list="listing = true"
      @measures="covering = $event"
      @read="reader?.open()"
    />
  </div>
</template>

<style scoped>
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
</style>

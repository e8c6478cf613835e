<script setup lang="ts">
import { mdiCameraPlusOutline } from '@mdi/js'
import { useEventListener } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { answered, client, type Schemas } from '../api/client'
import BenchTable from '../components/BenchTable.vue'
import MeasureIn from '../components/MeasureIn.vue'
import MeasureTag from '../components/MeasureTag.vue'
import PhotoSlip from '../components/PhotoSlip.vue'
import PieceChooser from '../components/PieceChooser.vue'
import PinnedSlip from '../components/PinnedSlip.vue'
import TapeList from '../components/TapeList.vue'
import WantedSlip from '../components/WantedSlip.vue'
import { useOpenJob } from '../state/keys'
import { say } from '../state/notice'
import './station.css'

type Chosen = { ring: number; corner?: number; edge?: number }
const state = useOpenJob()
const { job, measuring, sending } = state
const table = ref<InstanceType<typeof BenchTable> | null>(null)
const input = ref<HTMLInputElement | null>(null)
const chosen = shallowRef<Chosen | null>(null)
const measureFrom = ref<number | null>(null)
const adding = ref(false)
const foldFrom = ref<number | null>(null)
const folding = ref<[number, number] | null>(null)
const against = ref<'parallel' | 'equal' | null>(null)
const withPhoto = ref(true)
const placed = shallowRef<Schemas['Placed'] | null>(null)
const lookFor = shallowRef<Schemas['WantedIn']>({ kind: 'piece', side: 'centre', height: '' })
const dragged = shallowRef<{ ring: number; corner: number; x: number; y: number } | null>(null)
const tolerance = ref('')

const shape = computed(() => job.value?.shape ?? null)
const measured = computed(() => [...(job.value?.photos ?? [])].reverse().find((p) => p.status === 'done') ?? null)
const choosing = computed(() => [...(job.value?.photos ?? [])].reverse()[0]?.status === 'choose')
const asked = computed(() => (choosing.value ? job.value?.photos.at(-1) ?? null : null))
const box = computed<[number, number, number, number]>(() => shape.value?.box ?? [0, 0, 400, 300])
const photographed = computed(() => shape.value?.error_mm != null)
const underlaid = computed(() => withPhoto.value && photographed.value)
const trusted = computed(() => placed.value?.trusted.map(([x, y]) => `${x},${-y}`).join(' ') ?? '')
const flat = computed(() => {
  const [left = 0, bottom = 0, width = 0, height = 0] = placed.value?.box ?? []
  return { left: `${left}px`, top: `${-bottom - height}px`, width: `${width}px`, height: `${height}px` }
})
const foldLine = computed(() => {
  const [a, b] = (folding.value ?? []).map((k) => shape.value?.rings[0]?.joints[k]?.point)
  return a && b ? { x1: a[0], y1: -a[1], x2: b[0], y2: -b[1] } : null
})
const edge = computed(() => (chosen.value?.edge === undefined ? null : shape.value?.rings[chosen.value.ring]?.edges[chosen.value.edge] ?? null))
const corner = computed(() => (chosen.value?.corner === undefined ? null : shape.value?.rings[chosen.value.ring]?.joints[chosen.value.corner] ?? null))
const wanted = computed(() => (chosen.value?.edge === undefined ? null : shape.value?.rings[chosen.value.ring]?.joints[chosen.value.edge]?.next_kind ?? null))

watch(
  () => (measured.value ? `${measured.value.id} ${measured.value.status} ${job.value?.revision}` : ''),
  async () => {
    const id = measured.value?.id
    placed.value = id ? await answered<Schemas['Placed']>(client.GET('/api/photos/{photo_id}/placed', { params: { path: { photo_id: id } } })).catch(() => null) : null
  },
  { immediate: true },
)
watch(() => job.value?.revision, () => (tolerance.value = shape.value?.tolerance ?? ''), { immediate: true })

const path = (ring: number) => ({ ...state.path, ring })
const send = (call: () => ReturnType<Parameters<typeof state.change>[0]>) => state.change(call)

const setKind = (kind: Schemas['KindIn']['kind']) =>
  chosen.value?.edge !== undefined &&
  send(() => answered(client.PUT('/api/jobs/{job_id}/shape/{ring}/edges/{index}', { params: { path: { ...path(chosen.value!.ring), index: chosen.value!.edge! } }, headers: state.headers(), body: { kind } })))
async function removeCorner() {
  const at = chosen.value
  if (at?.corner === undefined) return
  chosen.value = null
  await send(() => answered(client.DELETE('/api/jobs/{job_id}/shape/{ring}/joints/{index}', { params: { path: { ...path(at.ring), index: at.corner! } }, headers: state.headers() })))
}
const moveCorner = (ring: number, index: number, x: number, y: number) =>
  send(() => answered(client.PUT('/api/jobs/{job_id}/shape/{ring}/joints/{index}', { params: { path: { ...path(ring), index } }, headers: state.headers(), body: { x, y } })))
const addCorner = (ring: number, x: number, y: number) =>
  send(() => answered(client.POST('/api/jobs/{job_id}/shape/{ring}/joints', { params: { path: path(ring) }, headers: state.headers(), body: { x, y } })))
async function setTolerance() {
  const kept = await send(() => answered(client.PUT('/api/jobs/{job_id}/shape/tolerance', { params: { path: state.path }, headers: state.headers(), body: { text: tolerance.value } })))
  if (!kept) tolerance.value = shape.value?.tolerance ?? ''
}
const measure = (body: Schemas['MeasureIn']) => send(() => answered(client.POST('/api/jobs/{job_id}/tape', { params: { path: state.path }, headers: state.headers(), body })))

const square = () => {
  const c = chosen.value
  return c?.corner === undefined ? undefined : send(() => answered(client.POST('/api/jobs/{job_id}/shape/{ring}/joints/{index}/square', { params: { path: { ...path(c.ring), index: c.corner! } }, headers: state.headers() })))
}
function hold(ring: number, edge: number, to: number) {
  const body = { edge, to }
  const how = against.value
  against.value = null
  const at = { params: { path: path(ring) }, headers: state.headers(), body }
  send(() => answered(how === 'equal' ? client.POST('/api/jobs/{job_id}/shape/{ring}/equal', at) : client.POST('/api/jobs/{job_id}/shape/{ring}/parallel', at)))
}
async function fold(keep: Schemas['FoldIn']['keep']) {
  const [first, second] = folding.value ?? [0, 0]
  folding.value = null
  chosen.value = null
  if (await send(() => answered(client.POST('/api/jobs/{job_id}/fold', { params: { path: state.path }, headers: state.headers(), body: { first, second, keep } })))) say(`${job.value?.last_change}.`)
}

function pickCorner(ring: number, k: number) {
  if (foldFrom.value !== null && ring === 0 && k !== foldFrom.value) {
    folding.value = [foldFrom.value, k]
    foldFrom.value = null
  }
  if (measureFrom.value !== null && ring === 0 && k !== measureFrom.value) {
    measure({ between: [measureFrom.value, k] })
    measureFrom.value = null
  }
  chosen.value = { ring, corner: k }
}
function pickEdge(e: PointerEvent, ring: number, k: number) {
  if (adding.value && table.value) {
    const at = table.value.atPointer(e)
    adding.value = false
    addCorner(ring, at.x, at.y)
    return
  }
  const c = chosen.value
  if (against.value && c?.edge !== undefined && c.ring === ring && c.edge !== k) return hold(ring, c.edge, k)
  chosen.value = { ring, edge: k }
}
function startDrag(e: PointerEvent, ring: number, k: number) {
  pickCorner(ring, k)
  const target = e.currentTarget as Element
  target.setPointerCapture(e.pointerId)
  const from = { x: e.clientX, y: e.clientY }
  const move = (m: PointerEvent) => {
    if (!dragged.value && Math.hypot(m.clientX - from.x, m.clientY - from.y) < 5) return
    const at = table.value?.atPointer(m)
    if (at) dragged.value = { ring, corner: k, ...at }
  }
  const end = async () => {
    target.removeEventListener('pointermove', move as EventListener)
    target.removeEventListener('pointerup', end)
    target.removeEventListener('pointercancel', end)
    const to = dragged.value
    if (to) await moveCorner(ring, k, to.x, to.y)
    dragged.value = null
  }
  target.addEventListener('pointermove', move as EventListener)
  target.addEventListener('pointerup', end)
  target.addEventListener('pointercancel', end)
}
function at(ring: number, k: number, point: readonly number[]) {
  const d = dragged.value
  return d && d.ring === ring && d.corner === k ? { x: d.x, y: -d.y } : { x: point[0] ?? 0, y: -(point[1] ?? 0) }
}
const NUDGE: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement || e.ctrlKey || e.metaKey) return
  if (e.key === 'Escape') {
    chosen.value = measureFrom.value = foldFrom.value = folding.value = against.value = null
    adding.value = false
  }
  const c = chosen.value
  if (!c || !shape.value) return
  if ((e.key === 'Delete' || e.key === 'Backspace') && c.corner !== undefined) removeCorner()
  const way = NUDGE[e.key]
  if (way && corner.value && c.corner !== undefined) {
    e.preventDefault()
    const by = e.shiftKey ? 5 : 0.5
    moveCorner(c.ring, c.corner, corner.value.point[0] + way[0] * by, corner.value.point[1] + way[1] * by)
  } else if (c.edge !== undefined && (e.key === 'ArrowLeft' || e.key === 'ArrowRight')) {
    const count = shape.value.rings[c.ring]?.edges.length ?? 1
    chosen.value = { ring: c.ring, edge: (c.edge + (e.key === 'ArrowRight' ? 1 : count - 1)) % count }
  }
})
function files(e: Event) {
  const el = e.target as HTMLInputElement
  const chosenFiles = [...(el.files ?? [])]
  el.value = ''
  state.sendPhotos(chosenFiles, lookFor.value)
}
function dropped(e: DragEvent) {
  state.sendPhotos([...(e.dataTransfer?.files ?? [])], lookFor.value)
}
</script>

<template>
  <div v-if="job" class="station" @dragover.prevent @drop.prevent="dropped">
    <div class="stack">
      <PieceChooser v-if="asked" :photo="asked" />
      <BenchTable v-else ref="table" :box="box" :unit="job.unit" label="The outline over its photo" @bare="chosen = null">
        <template #under><img v-if="measured && placed && underlaid" class="photo" :src="`/api/photos/${measured.id}/flat.jpg?${placed.box.join()}`" alt="" :style="flat" draggable="false" /></template>
        <template #default="{ px }">
          <g v-if="shape" :class="{ over: placed && underlaid }">
            <polygon v-if="placed && underlaid" :points="trusted" class="trusted" :stroke-width="2 * px" :stroke-dasharray="`${3 * px} ${7 * px}`" />
            <g v-for="(ring, r) in shape.rings" :key="r">
              <path :d="ring.trace" class="error" :stroke-width="Math.max(2 * (shape.error_mm ?? 0), 6 * px)" />
              <path :d="ring.trace" class="trace" :stroke-width="1.5 * px" />
              <g v-for="(e, k) in ring.edges" :key="`${r}-${k}`">
                <path :d="e.path" class="edge" :class="{ chosen: chosen?.ring === r && chosen?.edge === k }" :stroke-width="(chosen?.ring === r && chosen?.edge === k ? 5 : 3) * px" />
                <path :d="e.path" class="hit" :stroke-width="30 * px" @pointerdown.stop @pointerup.stop="pickEdge($event, r, k)" />
              </g>
            </g>
            <g v-for="(t, k) in shape.tape" :key="`t${k}`">
              <line v-if="t.ends.length" :x1="t.ends[0]![0]" :y1="-t.ends[0]![1]" :x2="t.ends[1]![0]" :y2="-t.ends[1]![1]" class="tapeline" :stroke-width="2 * px" :stroke-dasharray="`${7 * px} ${5 * px}`" />
              <MeasureTag v-if="t.ends.length" :x="(t.ends[0]![0] + t.ends[1]![0]) / 2" :y="-(t.ends[0]![1] + t.ends[1]![1]) / 2" :px="px" :text="`${t.outline} ${job.unit}`" plain />
            </g>
            <g v-for="(ring, r) in shape.rings" :key="`j${r}`">
              <g v-for="(j, k) in ring.joints" :key="k" class="joint" :class="{ chosen: chosen?.ring === r && chosen?.corner === k }" role="button" tabindex="0" :aria-label="`Corner ${j.letter}${r ? ` of hole ${r}` : ''}`" :transform="`translate(${at(r, k, j.point).x} ${at(r, k, j.point).y})`" @pointerdown.stop="startDrag($event, r, k)" @keydown.enter="pickCorner(r, k)" @keydown.space.prevent="pickCorner(r, k)">
                <circle :r="22 * px" class="hit" />
                <circle v-if="j.smooth" :r="6.5 * px" :stroke-width="2.4 * px" />
                <rect v-else :x="-7 * px" :y="-7 * px" :width="14 * px" :height="14 * px" transform="rotate(45)" :stroke-width="2.4 * px" />
                <g v-if="r === 0" :transform="`translate(${22 * px} ${-15 * px})`"><rect class="flag" :x="-12 * px" :y="-10 * px" :width="(j.letter.length * 9 + 14) * px" :height="20 * px" :rx="10 * px" /><text :x="(j.letter.length * 4.5 - 5) * px" :y="4.8 * px" :font-size="14 * px">{{ j.letter }}</text></g>
              </g>
            </g>
            <line v-if="foldLine" v-bind="foldLine" class="fold" :stroke-width="3 * px" :stroke-dasharray="`${14 * px} ${5 * px} ${3 * px} ${5 * px}`" />
            <MeasureTag v-if="edge" :x="edge.middle[0]" :y="-edge.middle[1]" :px="px" :text="`${edge.length} ${job.unit}`" chosen />
          </g>
        </template>
        <template #tools>
          <v-btn v-if="measured && photographed" variant="flat" :aria-pressed="withPhoto" @click="withPhoto = !withPhoto">{{ withPhoto ? 'Hide the photo' : 'Show the photo' }}</v-btn>
        </template>
      </BenchTable>
      <div v-if="!shape && !asked" class="start">
        <h2>Lay the piece flat, four reference sheets round it, and photograph it from above.</h2>
        <p class="soft">No sheets yet? <a href="/api/sheets.pdf?paper=a4&count=4">Print them on A4</a>, <a href="/api/sheets.pdf?paper=letter&count=4">Letter</a> or <a href="/api/sheets.pdf?paper=a3&count=4">A3</a>, at 100 %.</p>
        <WantedSlip v-model="lookFor" />
        <v-btn color="primary" variant="flat" size="large" :prepend-icon="mdiCameraPlusOutline" :disabled="!!measuring || !!sending" @click="input?.click()">Send photos</v-btn>
        <p class="soft small">Is it wider than one photo? Choose several that overlap, neighbours with two sheets in common; they are measured together.</p>
      </div>
      <div v-if="measuring || sending" class="working" role="status">
        <b>{{ sending ? `Sending ${sending.name}` : measuring?.stage || 'waiting for its turn' }}</b>
        <v-progress-linear :model-value="100 * (sending?.share ?? measuring?.share ?? 0)" color="primary" height="8" rounded aria-label="How far the photo is" />
      </div>
      <input ref="input" type="file" hidden multiple accept="image/jpeg,image/png,image/tiff,image/webp,image/heic,image/heif,.heic,.heif,.tif,.tiff" aria-label="Photos" @change="files" />
    </div>
    <PinnedSlip>
      <template v-if="shape">
        <template v-if="folding">
          <h2>Fold {{ shape.rings[0]?.joints[folding[0]]?.letter }} – {{ shape.rings[0]?.joints[folding[1]]?.letter }}</h2>
          <p>Both halves become alike. What are they made of?</p>
          <div class="row" role="group" aria-label="What both halves become">
            <v-btn color="primary" variant="flat" @click="fold('average')">Both, averaged</v-btn>
            <v-btn @click="fold('left')">The left half</v-btn>
            <v-btn @click="fold('right')">The right half</v-btn>
            <v-btn variant="text" @click="folding = null">Don’t fold</v-btn>
          </div>
          <p class="soft small">Left and right as seen from {{ shape.rings[0]?.joints[folding[0]]?.letter }} towards {{ shape.rings[0]?.joints[folding[1]]?.letter }}.</p>
        </template>
        <template v-else-if="edge">
          <div class="row between"><h2>Edge {{ edge.name }}</h2><span class="soft small">{{ edge.kind }}{{ edge.radius ? ` r ${edge.radius}` : '' }}</span></div>
          <p>{{ edge.length }} {{ job.unit }} long; the trace strays from it by {{ edge.strays }} at most.</p>
          <div class="row" role="group" aria-label="What this edge is">
            <v-btn :class="{ on: wanted === 'line' }" @click="setKind('line')">Straighten</v-btn>
            <v-btn :class="{ on: wanted === 'arc' }" @click="setKind('arc')">Arc</v-btn>
            <v-btn :class="{ on: wanted === 'curve' }" @click="setKind('curve')">Curve</v-btn>
            <v-btn :class="{ on: wanted === 'auto' }" @click="setKind('auto')">As it fits</v-btn>
          </div>
          <div class="row">
            <v-btn :class="{ on: against === 'parallel' }" @click="against = against === 'parallel' ? null : 'parallel'">{{ against === 'parallel' ? 'Now the other edge' : 'Parallel with …' }}</v-btn>
            <v-btn :class="{ on: against === 'equal' }" @click="against = against === 'equal' ? null : 'equal'">{{ against === 'equal' ? 'Now the other edge' : 'As long as …' }}</v-btn>
            <v-btn v-if="chosen?.ring === 0" @click="measure({ edge: chosen!.edge! })">Add to the tape list</v-btn>
          </div>
        </template>
        <template v-else-if="corner">
          <div class="row between"><h2>Corner {{ corner.letter }}</h2><span class="soft small">{{ corner.smooth ? 'runs on smoothly' : 'sharp' }}</span></div>
          <p class="soft">Drag it, or nudge it with the arrow keys (Shift for more).</p>
          <div class="row">
            <v-btn v-if="chosen?.ring === 0" :class="{ on: measureFrom !== null }" @click="measureFrom = measureFrom === null ? chosen!.corner! : null">{{ measureFrom === null ? 'Measure from here' : 'Now the other corner' }}</v-btn>
            <v-btn @click="square">Make it square</v-btn>
            <v-btn v-if="chosen?.ring === 0" :class="{ on: foldFrom !== null }" @click="foldFrom = foldFrom === null ? chosen!.corner! : null">{{ foldFrom === null ? 'Fold from here' : 'Now where the fold ends' }}</v-btn>
            <v-btn color="error" @click="removeCorner">Remove it</v-btn>
          </div>
        </template>
        <template v-else>
          <div class="row between"><h2>{{ shape.width }} × {{ shape.height }} {{ job.unit }}</h2><span v-if="shape.error" class="soft">± {{ shape.error }}</span></div>
          <p class="said">{{ shape.verdict }}</p>
          <p class="soft">Point at an edge or a corner to true it up.</p>
        </template>
        <div class="row"><v-btn :class="{ on: adding }" :aria-pressed="adding" @click="adding = !adding">{{ adding ? 'Point at the outline' : 'Add a corner' }}</v-btn></div>
        <TapeList />
        <label class="tolerance">Edges may stray from the trace by <input v-model="tolerance" class="typed" inputmode="decimal" @change="setTolerance" /> {{ job.unit }}</label>
        <p class="soft small">Changing it finds all corners afresh; undo brings yours back.</p>
      </template>
      <template v-else>
        <h2>The photo</h2>
        <PhotoSlip />
        <h2>Or measure it in</h2>
        <MeasureIn />
      </template>
      <PhotoSlip v-if="shape" />
      <details v-if="shape"><summary>Measure it in instead</summary><MeasureIn /></details>
      <div v-if="shape || job.photos.length" class="row"><v-btn :prepend-icon="mdiCameraPlusOutline" :disabled="!!measuring || !!sending" @click="input?.click()">{{ job.photos.length ? 'Other photos' : 'Send photos' }}</v-btn></div>
    </PinnedSlip>
  </div>
</template>

<style scoped>
.photo {
  position: absolute;
  max-width: none;
  pointer-events: none;
}
.error {
  fill: none;
  stroke: var(--tape-filled);
  stroke-opacity: 0.45;
  stroke-linejoin: round;
}
.trace {
  fill: none;
  stroke: var(--soft-ink);
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
}
.over .edge {
  stroke: #fff;
}
.over .trace {
  stroke: var(--tape-filled);
}
.edge.chosen {
  stroke: var(--woad);
}
.over .edge.chosen {
  stroke: #7cc4f2;
}
.hit {
  fill: transparent;
  stroke: transparent;
  cursor: pointer;
}
path.hit {
  fill: none;
  pointer-events: stroke;
}
.joint {
  cursor: grab;
  outline: none;
}
.joint:focus-visible > circle.hit {
  stroke: #7cc4f2;
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
}
.joint > rect,
.joint > circle:not(.hit) {
  fill: var(--paper);
  stroke: #1f2d2b;
}
.joint.chosen > rect,
.joint.chosen > circle:not(.hit) {
  fill: #7cc4f2;
}
.flag {
  fill: #1f2d2b;
}
.joint text {
  fill: #fff;
  text-anchor: middle;
  font-weight: 700;
}
.trusted {
  fill: none;
  stroke: #fff;
  opacity: 0.75;
}
.fold {
  stroke: var(--madder);
}
.over .fold {
  stroke: #ffd9d2;
}
.tapeline {
  stroke: var(--ink);
}
.over .tapeline {
  stroke: #fff;
}
.start {
  position: absolute;
  inset: 14% 8% auto;
  display: grid;
  justify-items: center;
  gap: 16px;
  text-align: center;
  pointer-events: none;
}
.start > * {
  pointer-events: auto;
}
.start h2 {
  max-width: 24ch;
  font-size: 24px;
}
.start a {
  color: var(--woad);
  font-weight: 600;
}
.working {
  position: absolute;
  left: 50%;
  top: 20px;
  translate: -50% 0;
  width: min(420px, 80%);
  padding: 14px 18px;
  border-radius: 22px;
  background: var(--paper);
  box-shadow: 0 2px 10px #1f2d2b33;
  display: grid;
  gap: 8px;
}
</style>

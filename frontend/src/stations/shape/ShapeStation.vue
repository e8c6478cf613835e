<script setup lang="ts">
import { mdiCameraPlusOutline } from '@mdi/js'
import { computed, provide, ref, shallowRef, watch } from 'vue'
import { ask, type Schemas } from '../../api/client'
import BenchTable from '../../bench/BenchTable.vue'
import LoupeView from './LoupeView.vue'
import OutlineDrawing from './OutlineDrawing.vue'
import PhoneLink from './PhoneLink.vue'
import PhotoPointer from './PhotoPointer.vue'
import PieceRail from './PieceRail.vue'
import ToolRoll from '../../bench/ToolRoll.vue'
import ShapeSlip from './ShapeSlip.vue'
import ShapeTags from './ShapeTags.vue'
import WantedSlip from './WantedSlip.vue'
import WorkProgress from '../../ui/WorkProgress.vue'
import { SHAPE_TASKS, type ShapeTask } from '../../logic/tasks'
import { useHand } from '../../state/hand'
import { shapeKey, useOpenJob } from '../../state/keys'
import { NOTHING_SAID } from '../../state/job'
import { useShape } from '../../state/shape'
import { useTable } from '../../state/table'
import '../../bench/station.css'
import { useShortcuts } from '../../state/shortcuts'

const state = useOpenJob()
const { job, measuring, sending } = state
const work = useShape(state)
const table = useTable(state, work)
const { shape, dragged } = table
const bench = ref<InstanceType<typeof BenchTable> | null>(null)
const input = ref<HTMLInputElement | null>(null)
const withPhoto = ref(true)
const placed = shallowRef<Schemas['PlacedPhoto'] | null>(null)
const lookFor = shallowRef<Schemas['WantedIn']>(NOTHING_SAID)
const pointer = shallowRef<{ x: number; y: number } | null>(null)

const latest = computed(() => job.value?.photos.at(-1) ?? null)
const left = ref<number | null>(null)
const asked = computed(() => (latest.value?.status === 'choose' && latest.value.id !== left.value ? latest.value : null))
/** The photo whose piece is being pointed at. */
const pointing = ref<number | null>(null)
const settled = computed(() => !!latest.value && !latest.value.dpi && ['done', 'refused', 'choose'].includes(latest.value.status))
const pointedAt = computed(() => asked.value ?? (settled.value && latest.value?.id === pointing.value ? latest.value : null))
function leave() {
  left.value = asked.value?.id ?? null
  pointing.value = null
}
/** The photo of the piece on the table; or, where none was found in the last one, that one, to be walked by hand. */
const shown = computed(() => {
  if (shape.value) return shape.value.photo === null ? null : { photo: shape.value.photo, outline: shape.value.outline }
  return latest.value?.by_hand == null ? null : { photo: latest.value.id, outline: latest.value.by_hand }
})
const hand = useHand(work, () => shown.value)
const { mode } = hand
provide(shapeKey, { work, table, hand })

const box = computed<[number, number, number, number]>(() => shape.value?.box ?? placed.value?.box ?? [0, 0, 400, 300])
/** What lies on the table, be it measured or not: another piece, or another photo. */
const lies = computed(() => `${job.value?.open_piece} ${shown.value?.photo} ${!!shape.value || !!placed.value}`)
const over = computed(() => withPhoto.value && !!placed.value && (shape.value?.on_photo ?? true))
/** Its photo lies under the outline: where it was found, or within its frame after it was moved. */
const beneath = computed(() => withPhoto.value && !!placed.value && (over.value || !!shape.value?.before.length))
const src = computed(() => (shown.value ? `/api/photos/${shown.value.photo}/outlines/${shown.value.outline}/flat.jpg` : ''))
const flat = computed(() => {
  const [left = 0, bottom = 0, width = 0, height = 0] = placed.value?.box ?? []
  return { left: `${left}px`, top: `${-bottom - height}px`, width: `${width}px`, height: `${height}px` }
})
const loupe = computed(() => (over.value ? (dragged.value ?? (mode.value ? pointer.value : null)) : null))

watch(
  () => (shown.value ? `${shown.value.photo} ${shown.value.outline}` : ''),
  () => hand.stop(),
)
watch(
  () => (shown.value ? `${shown.value.photo} ${shown.value.outline} ${job.value?.revision}` : ''),
  async () => {
    const at = shown.value
    placed.value = at
      ? await ask('get', '/api/photos/{photo_id}/outlines/{index}', { params: { path: { photo_id: at.photo, index: at.outline } } }).catch(
          () => null,
        )
      : null
  },
  { immediate: true },
)

// a piece that comes to lie on the table is trued up first
watch(
  () => (shape.value ? job.value?.open_piece : ''),
  (piece) => piece && table.take('true_up'),
)

const place = (e: PointerEvent) => bench.value?.atPointer(e) ?? { x: 0, y: 0 }
/** The tools that are of use just now. */
const tools = computed<ShapeTask[]>(() => {
  const now: ShapeTask[] = shape.value ? ['true_up', 'tape', 'fold'] : []
  if (over.value && shape.value) now.push('paint')
  if (over.value) now.push('walk')
  if (settled.value) now.push('point')
  if (shape.value) now.push('old', 'steps')
  return [...now, 'photo', 'enter']
})
const tool = computed<ShapeTask>(() => {
  if (mode.value) return mode.value
  if (pointedAt.value) return 'point'
  if (shape.value || table.task.value !== 'true_up') return table.task.value
  return job.value?.photos.length ? 'photo' : 'enter'
})
function take(task: ShapeTask) {
  hand.stop()
  if (task === 'paint' || task === 'walk') {
    table.take('true_up')
    hand.begin(task)
  } else if (task === 'point') {
    left.value = null
    pointing.value = latest.value?.id ?? null
  } else {
    if (pointedAt.value) leave()
    table.take(task)
  }
}
useShortcuts({
  leave: () => (mode.value ? hand.stop() : table.leave()),
  remove: (e) => (!mode.value ? table.removeChosen() : e.key === 'Backspace' ? hand.back() : false),
  take: (e) => (mode.value && !(e.target instanceof HTMLButtonElement) ? hand.take() : false),
  arrows: (e) => !mode.value && table.nudge(e),
})
function pointed(at: { x: number; y: number }) {
  if (mode.value === 'walk') hand.step(at)
  else if (!mode.value) table.drop()
}
function files(e: Event) {
  const el = e.target as HTMLInputElement
  const sent = [...(el.files ?? [])]
  el.value = ''
  send(sent)
}
const dropped = (e: DragEvent) => send([...(e.dataTransfer?.files ?? [])])
/** What comes of photos stands on their slip, not on that of what is typed. */
function send(photos: readonly File[]) {
  if (table.task.value === 'enter') table.take('photo')
  state.sendPhotos(photos, lookFor.value)
}
</script>

<template>
  <div v-if="job" class="station" @dragover.prevent @drop.prevent="dropped">
    <div class="column">
      <PieceRail />
      <div class="stack tooled">
        <ToolRoll :tools="SHAPE_TASKS" :keys="tools" :model-value="tool" @update:model-value="take" />
        <PhotoPointer v-if="pointedAt" :photo="pointedAt" @leave="leave" />
        <BenchTable
          v-else
          ref="bench"
          :box="box"
          :work="lies"
          :unit="job.unit"
          label="The outline over its photo"
          :drawing="mode === 'paint'"
          @point="pointed"
          @draw="hand.draw"
          @pointermove="pointer = $event.pointerType === 'mouse' ? null : place($event)"
          @pointerup="pointer = null"
        >
          <template #under><img v-if="beneath" class="photo" :src="src" alt="" :style="flat" draggable="false" /></template>
          <template #default="{ px }">
            <g :class="{ still: mode }"><OutlineDrawing :px="px" :over="over" :light="beneath" :placed="placed" :place="place" /></g>
          </template>
          <template #above="{ px, seen, size }">
            <LoupeView v-if="loupe && placed" :at="loupe" :px="px" :src="src" :placed="placed" />
            <ShapeTags v-if="!mode && !dragged" :seen="seen" :room="size" />
          </template>
          <template #tools>
            <v-btn
              v-if="placed && (shape?.on_photo || shape?.before.length) && !mode"
              variant="flat"
              :aria-pressed="withPhoto"
              @click="withPhoto = !withPhoto"
              >{{ withPhoto ? 'Hide the photo' : 'Show the photo' }}</v-btn
            >
          </template>
        </BenchTable>
        <img
          v-if="measuring && !shape && !pointedAt"
          class="measured"
          :src="`/api/photos/${measuring.id}/preview.jpg`"
          alt="The photo that is being measured"
        />
        <div v-if="!shape && !pointedAt && !placed && !sending && !measuring" class="start">
          <h2>Lay the piece flat, four reference sheets round it, and photograph it from above.</h2>
          <p class="soft">
            No sheets yet? <a href="/api/sheets.pdf?paper=a4&count=4">Print them on A4</a>,
            <a href="/api/sheets.pdf?paper=letter&count=4">Letter</a> or <a href="/api/sheets.pdf?paper=a3&count=4">A3</a>, at 100 %.
          </p>
          <WantedSlip v-model="lookFor" />
          <v-btn color="primary" variant="flat" size="large" :prepend-icon="mdiCameraPlusOutline" @click="input?.click()">{{
            lookFor.dpi ? 'Send scans' : 'Send photos'
          }}</v-btn>
          <PhoneLink />
          <p class="soft small">
            Is it wider than one photo? Choose several that overlap, neighbours with two sheets in common; they are measured together.
          </p>
        </div>
        <WorkProgress v-if="sending" class="working" :work="{ stage: `sending ${sending.name}`, share: sending.share }" />
        <WorkProgress v-else-if="measuring" class="working" :work="measuring" can-stop @stop="state.stopMeasuring(measuring.id)" />
        <input
          ref="input"
          type="file"
          hidden
          multiple
          accept="image/jpeg,image/png,image/tiff,image/webp,image/heic,image/heif,.heic,.heif,.tif,.tiff"
          aria-label="Photos"
          @change="files"
        />
      </div>
    </div>
    <ShapeSlip :placed="placed" :source="shown" :pointing="!!pointedAt" @photos="input?.click()" />
  </div>
</template>

<style scoped>
.column {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.stack {
  grid-row: 2;
}
.still :deep(*) {
  pointer-events: none !important;
}
.photo {
  position: absolute;
  max-width: none;
  pointer-events: none;
}
.measured {
  position: absolute;
  inset: 0 0 0 auto;
  width: calc(100% - 88px);
  height: 100%;
  object-fit: contain;
  pointer-events: none;
}
.start {
  position: absolute;
  inset: 8% 8% auto;
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
}
/* there the tools lie above the bench, and the start has all of it */
@media (max-width: 900px) {
  .measured,
  .start {
    inset: 70px 0 0;
  }
  .measured {
    width: 100%;
    height: calc(100% - 70px);
  }
  .start {
    align-content: start;
    padding: 16px;
    overflow-y: auto;
    background: var(--table);
    border-radius: 8px;
    pointer-events: auto;
  }
  .start h2 {
    font-size: 19px;
  }
  .working {
    top: 80px;
  }
}
</style>

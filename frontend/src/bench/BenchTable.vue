<script setup lang="ts">
import { mdiFitToPageOutline, mdiMinus, mdiPlus } from '@mdi/js'
import { refAutoReset, refDebounced, useElementSize, useEventListener } from '@vueuse/core'
import { computed, provide, ref, shallowRef, watch, watchPostEffect } from 'vue'
import { barLength, fit, pan, sees, toTable, toWindow, zoom, type Box, type Viewport } from '../logic/viewport'
import { tableKey } from '../state/keys'
import { useShortcuts } from '../state/shortcuts'
import TableDrawing from './TableDrawing.vue'

/**
 * The table that the work lies on. Its slot draws in mm with y down; `px` is how many mm a screen pixel is. What is moved by
 * itself lies below that, as drawings of their own (`laid`). It is fitted to the box when other `work` lies on it, never while
 * the same is worked on; `above` hangs on places, which `seen` finds in the window. While `drawing`, one finger draws and two
 * move the table.
 */
const props = defineProps<{ box: Box; work: string; label: string; unit: string; drawing?: boolean }>()
const emit = defineEmits<{
  point: [at: { x: number; y: number }]
  bare: []
  draw: [phase: 'start' | 'move' | 'end' | 'cancel', at: { x: number; y: number }]
}>()

const frame = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(frame)
const view = shallowRef<Viewport>({ x: 0, y: 0, scale: 1 })
const touched = ref(false)
const fingers = new Map<number, { x: number; y: number }>()
let travelled = 0

const px = computed(() => 1 / view.value.scale)
/** What lies under the drawing is a layer that moves without being drawn anew, but while its size changes. */
const zooms = refAutoReset(false, 200)
watch(
  () => view.value.scale,
  () => (zooms.value = true),
)
/** The drawing is a layer that moves while the table is panned; it is drawn anew where the table rests, or its size changes. */
const rested = refDebounced(view, 200)
const drawn = computed(() => (rested.value.scale === view.value.scale ? rested.value : view.value))
const viewBox = computed(() => `${drawn.value.x} ${drawn.value.y} ${width.value * px.value || 1} ${height.value * px.value || 1}`)
provide(tableKey, { viewBox, px })
const underLayer = ref<HTMLElement | null>(null)
const drawnLayer = ref<HTMLElement | null>(null)
// set here, as in the template each pixel panned would have all that the slots draw compared anew
watchPostEffect(() => {
  const { x, y, scale } = view.value
  const by = toWindow(view.value, { x: drawn.value.x, y: -drawn.value.y })
  if (underLayer.value) underLayer.value.style.transform = `scale(${scale}) translate(${-x}px, ${-y}px)`
  if (drawnLayer.value) drawnLayer.value.style.transform = `translate(${by.x}px, ${by.y}px)`
})
const bar = computed(() => (props.unit === 'in' ? barLength({ ...view.value, scale: view.value.scale * 25.4 }) : barLength(view.value)))
const barPx = computed(() => bar.value * view.value.scale * (props.unit === 'in' ? 25.4 : 1))
const barText = computed(() => (props.unit === 'cm' ? `${bar.value / 10} cm` : `${bar.value} ${props.unit}`))

function refit() {
  touched.value = false
  if (width.value && height.value) view.value = fit(props.box, { width: width.value, height: height.value })
}
watch([width, height], () => !touched.value && refit(), { immediate: true })
watch(
  () => props.work,
  () => (touched.value && sees(view.value, { width: width.value, height: height.value }, props.box) ? undefined : refit()),
)
const seen = (p: { x: number; y: number }) => toWindow(view.value, p)
const size = computed(() => ({ width: width.value, height: height.value }))

function local(e: PointerEvent | WheelEvent) {
  const box = frame.value?.getBoundingClientRect()
  return { x: e.clientX - (box?.left ?? 0), y: e.clientY - (box?.top ?? 0) }
}

function atPointer(e: PointerEvent) {
  const at = local(e)
  return toTable(view.value, at.x, at.y)
}

function down(e: PointerEvent) {
  fingers.set(e.pointerId, local(e))
  if (fingers.size === 1) travelled = 0
  if (props.drawing) emit('draw', fingers.size === 1 ? 'start' : 'cancel', atPointer(e))
  frame.value?.setPointerCapture(e.pointerId)
}

function move(e: PointerEvent) {
  const before = fingers.get(e.pointerId)
  if (!before) return
  const now = local(e)
  const other = [...fingers.entries()].find(([id]) => id !== e.pointerId)?.[1]
  fingers.set(e.pointerId, now)
  travelled += Math.hypot(now.x - before.x, now.y - before.y)
  if (props.drawing && !other) {
    emit('draw', 'move', atPointer(e))
    return
  }
  if (travelled < 5 && !other) return
  touched.value = true
  if (other) {
    const factor = Math.hypot(now.x - other.x, now.y - other.y) / Math.max(Math.hypot(before.x - other.x, before.y - other.y), 1)
    view.value = pan(zoom(view.value, factor, (now.x + other.x) / 2, (now.y + other.y) / 2), (now.x - before.x) / 2, (now.y - before.y) / 2)
  } else view.value = pan(view.value, now.x - before.x, now.y - before.y)
}

function up(e: PointerEvent) {
  const pressed = fingers.delete(e.pointerId)
  if (props.drawing && pressed && !fingers.size) {
    emit('draw', 'end', atPointer(e))
    return
  }
  if (pressed && !fingers.size && travelled < 5 && e.type === 'pointerup') {
    emit('point', atPointer(e))
    emit('bare')
  }
}

function zoomBy(factor: number) {
  touched.value = true
  view.value = zoom(view.value, factor, width.value / 2, height.value / 2)
}

useEventListener(
  frame,
  'wheel',
  (e: WheelEvent) => {
    e.preventDefault()
    touched.value = true
    const at = local(e)
    view.value = zoom(view.value, Math.exp(-e.deltaY * 0.0015), at.x, at.y)
  },
  { passive: false },
)
useShortcuts({ closer: () => zoomBy(1.25), further: () => zoomBy(0.8), showAll: () => refit() })

defineExpose({ atPointer, px })
</script>

<template>
  <section ref="frame" class="table" :aria-label="label" @pointerdown="down" @pointermove="move" @pointerup="up" @pointercancel="up">
    <div ref="underLayer" class="under" :class="{ layer: !zooms }"><slot name="under" /></div>
    <div ref="drawnLayer" class="drawn">
      <svg class="patterns" aria-hidden="true">
        <defs>
          <pattern id="dots" :width="7 * px" :height="7 * px" patternUnits="userSpaceOnUse">
            <circle :cx="2 * px" :cy="2 * px" :r="0.95 * px" class="dot" />
          </pattern>
          <pattern id="hatch" :width="8 * px" :height="8 * px" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" :y2="8 * px" :stroke-width="1.2 * px" class="line" />
          </pattern>
        </defs>
      </svg>
      <slot name="laid" :px="px" />
      <TableDrawing><slot :px="px" /></TableDrawing>
    </div>
    <div class="bar" aria-hidden="true"><i :style="{ width: `${barPx}px` }" />{{ barText }}</div>
    <slot name="above" :px="px" :seen="seen" :size="size" />
    <div class="tools" @pointerdown.stop>
      <slot name="tools" />
      <v-btn :icon="mdiMinus" class="nearness" variant="flat" size="44" aria-label="Further away (−)" @click="zoomBy(0.8)" />
      <v-btn :icon="mdiPlus" class="nearness" variant="flat" size="44" aria-label="Closer (+)" @click="zoomBy(1.25)" />
      <v-btn :icon="mdiFitToPageOutline" variant="flat" size="44" aria-label="Show all (f)" @click="refit" />
    </div>
  </section>
</template>

<style scoped>
.table {
  position: relative;
  overflow: hidden;
  border-radius: 8px;
  background-color: var(--table);
  background-image: linear-gradient(var(--weave) 1px, transparent 1px), linear-gradient(90deg, var(--weave) 1px, transparent 1px);
  background-size: 8px 8px;
  touch-action: none;
  min-height: 320px;
  user-select: none;
}
.drawn {
  position: absolute;
  inset: 0;
  will-change: transform;
}
.patterns {
  position: absolute;
  width: 0;
  height: 0;
}
.under {
  position: absolute;
  left: 0;
  top: 0;
  transform-origin: 0 0;
}
.under.layer {
  will-change: transform;
}
.dot {
  fill: var(--soft-ink);
}
.line {
  stroke: var(--woad);
}
.bar {
  position: absolute;
  left: 24px;
  bottom: 18px;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 4px 12px;
  border-radius: 14px;
  background: color-mix(in srgb, var(--paper) 85%, transparent);
  font-weight: 600;
  font-size: 14px;
  pointer-events: none;
}
.bar i {
  height: 10px;
  border: solid var(--ink);
  border-width: 0 2px 3px;
}
.tools {
  position: absolute;
  right: 14px;
  bottom: 14px;
  left: 14px;
  display: flex;
  flex-wrap: wrap-reverse;
  justify-content: end;
  gap: 8px;
  align-items: center;
  pointer-events: none;
}
.tools > :deep(*) {
  pointer-events: auto;
}
.tools :deep(.v-btn--variant-flat) {
  background: var(--paper);
}
@media (max-width: 600px) {
  /* two fingers do it */
  .tools .nearness {
    display: none;
  }
  .bar {
    left: 12px;
    top: 12px;
    bottom: auto;
  }
}
</style>

<script setup lang="ts">
import type { Group, PerspectiveCamera, Scene, WebGLRenderer } from 'three'
import { onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { ask, type Schemas } from '../../api/client'
import { apart, boundsOf } from '../../logic/space'
import JoinMap from './JoinMap.vue'
import { useDrag } from '../../state/drag'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'

/** The job’s covers put together in space: turned by dragging or by arrow keys, nearer and farther, drawn apart. */
const state = useOpenJob()
const { job } = state
const view = shallowRef<Schemas['AssembledView'] | null>(null)
const broken = ref(false)
const spread = ref(0)
const bare = ref(false)
const flags = shallowRef<{ letter: string; left: number; top: number; open: boolean }[]>([])
const host = useTemplateRef<HTMLDivElement>('host')
const drag = useDrag()
const eye = { turn: -0.6, tilt: 0.5, far: 1.95 }
type Stage = { three: typeof import('three'); renderer: WebGLRenderer; scene: Scene; camera: PerspectiveCamera; pieces: Group }
let stage: Stage | null = null

async function load() {
  try {
    view.value = await ask('get', '/api/jobs/{job_id}/assembled', { params: { path: { job_id: state.id } } })
    if (view.value.pieces.length) await build()
  } catch (e) {
    sayWrong(e)
  }
}
onMounted(load)
watch(() => job.value?.revision, load)

async function build() {
  // drawn only where it is looked at: the library comes with the first look
  broken.value = !document.createElement('canvas').getContext('webgl2')
  if (broken.value) return
  const three = await import('three')
  if (!host.value) return
  stage ??= raised(three, host.value)
  const { scene } = stage
  const shown = !bare.value && !!view.value?.objects.length
  scene.remove(stage.pieces)
  stage.pieces = new three.Group()
  scene.add(stage.pieces)
  const styles = getComputedStyle(document.documentElement)
  const colour = (name: string) => new three.Color(styles.getPropertyValue(name).trim())
  const cloth = new three.MeshLambertMaterial({
    color: colour('--paper'),
    side: three.DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    ...(shown ? { transparent: true, opacity: 0.45, depthWrite: false } : {}),
  })
  const ink = new three.LineBasicMaterial({ color: colour('--ink') })
  const { middle } = boundsOf(view.value?.pieces ?? [])
  const solid = new three.MeshLambertMaterial({ color: colour('--tape-filled'), side: three.DoubleSide })
  for (const part of shown ? (view.value?.objects ?? []) : []) {
    const body = new three.Mesh(geometryOf(three, part.corners), solid)
    body.userData.way = [0, 0, 0]
    stage.pieces.add(body)
  }
  for (const piece of view.value?.pieces ?? []) {
    const rim = new three.BufferGeometry()
    rim.setAttribute('position', new three.Float32BufferAttribute(piece.rim, 3))
    const both = new three.Group()
    both.add(new three.Mesh(geometryOf(three, piece.corners), cloth), new three.LineLoop(rim, ink))
    both.userData.way = apart(piece.corners, middle)
    stage.pieces.add(both)
  }
  fit()
}
function geometryOf(three: Stage['three'], corners: readonly number[]) {
  const body = new three.BufferGeometry()
  body.setAttribute('position', new three.Float32BufferAttribute(corners, 3))
  body.computeVertexNormals()
  return body
}
function raised(three: typeof import('three'), into: HTMLDivElement): Stage {
  const renderer = new three.WebGLRenderer({ antialias: true, alpha: true })
  into.append(renderer.domElement)
  const scene = new three.Scene()
  const sun = new three.DirectionalLight(0xffffff, 1.6)
  sun.position.set(-1, -2, 3)
  scene.add(sun, new three.AmbientLight(0xffffff, 2))
  const camera = new three.PerspectiveCamera(16, 1, 1, 1e6)
  camera.up.set(0, 0, 1)
  return { three, renderer, scene, camera, pieces: new three.Group() }
}
function draw() {
  if (!stage || !host.value || !view.value) return
  const { three, renderer, scene, camera, pieces } = stage
  const { clientWidth: wide, clientHeight: high } = host.value
  const { middle, size } = boundsOf(view.value.pieces)
  for (const piece of pieces.children) {
    const [x, y, z] = (piece.userData.way as [number, number, number]).map((v) => v * spread.value * size * 0.6) as [number, number, number]
    piece.position.set(x, y, z)
  }
  const reach = 2.4 * eye.far * size * (1 + spread.value * 0.6)
  camera.position.set(
    middle[0] + reach * Math.cos(eye.tilt) * Math.sin(eye.turn),
    middle[1] - reach * Math.cos(eye.tilt) * Math.cos(eye.turn),
    middle[2] + reach * Math.sin(eye.tilt),
  )
  camera.lookAt(...middle)
  camera.aspect = wide / Math.max(high, 1)
  camera.updateProjectionMatrix()
  renderer.render(scene, camera)
  flags.value = spread.value
    ? []
    : view.value.joins.map((j) => {
        const p = new three.Vector3(...(j.gap ? j.worst : j.at)).project(camera)
        return { letter: j.letter, left: ((p.x + 1) / 2) * wide, top: ((1 - p.y) / 2) * high, open: !!j.gap }
      })
}
function fit() {
  if (!stage || !host.value) return
  stage.renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
  stage.renderer.setSize(host.value.clientWidth, host.value.clientHeight)
  draw()
}
watch(spread, draw)
watch(bare, build)
useResizeObserver(host, fit)
useEventListener(window.matchMedia('(prefers-color-scheme: dark)'), 'change', build)
onBeforeUnmount(() => {
  stage?.renderer.dispose()
  stage?.renderer.domElement.remove()
})

function turn(by: number, tilt: number) {
  eye.turn += by
  eye.tilt = Math.min(Math.max(eye.tilt + tilt, -1.5), 1.5)
  draw()
}
function nearer(by: number) {
  eye.far = Math.min(Math.max(eye.far * by, 0.6), 8)
  draw()
}
function grab(e: PointerEvent) {
  let at = { x: e.clientX, y: e.clientY }
  drag({
    move: (now) => {
      turn((at.x - now.clientX) / 150, (now.clientY - at.y) / 150)
      at = { x: now.clientX, y: now.clientY }
    },
    end: () => undefined,
  })
}
const KEYS: Record<string, () => void> = {
  ArrowLeft: () => turn(0.15, 0),
  ArrowRight: () => turn(-0.15, 0),
  ArrowUp: () => turn(0, 0.12),
  ArrowDown: () => turn(0, -0.12),
  '+': () => nearer(0.85),
  '-': () => nearer(1.18),
}
function key(e: KeyboardEvent) {
  const done = KEYS[e.key]
  if (!done) return
  e.preventDefault()
  e.stopPropagation()
  done()
}
</script>

<template>
  <section class="assembled" aria-label="Assembled">
    <template v-if="view && !view.pieces.length">
      <p class="soft">This can’t be built exactly in space; its joins, flat:</p>
      <JoinMap v-if="job?.joins.length" />
      <p v-else class="soft">Nothing is joined yet. Joins are made at Draft.</p>
    </template>
    <p v-else-if="broken" class="soft">This browser can’t draw in space. The joins beside it were walked all the same.</p>
    <div
      v-show="view?.pieces.length && !broken"
      ref="host"
      class="space"
      tabindex="0"
      role="img"
      :aria-label="`${view?.pieces.length ?? 0} pieces put together; arrow keys turn them, + and − go nearer and farther`"
      @pointerdown="grab"
      @wheel.prevent="nearer($event.deltaY > 0 ? 1.1 : 0.9)"
      @keydown="key"
    >
      <i v-for="f in flags" :key="f.letter" :class="{ open: f.open }" :style="{ left: `${f.left}px`, top: `${f.top}px` }">{{ f.letter }}</i>
    </div>
    <div v-if="view?.pieces.length && !broken" class="row between">
      <label class="row">drawn apart <input v-model.number="spread" type="range" min="0" max="1" step="0.05" /></label>
      <label v-if="view.objects.length" class="row"><input v-model="bare" type="checkbox" /> without what it covers</label>
      <span v-if="view.apart.length" class="soft small">Not shown: {{ view.apart.join(', ') }}.</span>
    </div>
    <p v-for="j in view?.joins.filter((one) => one.gap)" :key="j.letter" class="said stop">
      Join {{ j.letter }} stays open by {{ j.gap }} {{ job?.unit }} when it is put together.
    </p>
  </section>
</template>

<style scoped>
.assembled {
  display: grid;
  gap: 8px;
}
.space {
  position: relative;
  height: 340px;
  overflow: hidden;
  border: 1px solid var(--hairline);
  border-radius: 8px;
  background: var(--table);
  cursor: grab;
  touch-action: none;
}
.space i {
  position: absolute;
  transform: translate(-50%, -50%);
  padding: 0 8px 0 6px;
  font-style: normal;
  font-weight: 700;
  font-size: 13px;
  color: var(--tape-ink);
  background: var(--tape-filled);
  clip-path: polygon(0 0, 100% 0, calc(100% - 5px) 50%, 100% 100%, 0 100%);
  pointer-events: none;
}
.space i.open {
  color: var(--paper);
  background: var(--madder);
}
label {
  min-height: 44px;
}
input[type='range'] {
  width: 160px;
  height: 44px;
  accent-color: var(--woad);
}
</style>

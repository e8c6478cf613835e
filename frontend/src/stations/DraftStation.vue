<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { answered, client } from '../api/client'
import BenchTable from '../components/BenchTable.vue'
import EdgeSlip from '../components/EdgeSlip.vue'
import LabelSlip from '../components/LabelSlip.vue'
import PanelDrawing from '../components/PanelDrawing.vue'
import PinnedSlip from '../components/PinnedSlip.vue'
import { chosenAfter, step, type EdgeRef } from '../logic/steps'
import { useOpenJob } from '../state/keys'
import './station.css'

const GAP_MM = 60
const state = useOpenJob()
const { job } = state
const at = ref(0)
const chosen = shallowRef<EdgeRef[]>([])
const slip = ref<InstanceType<typeof EdgeSlip> | null>(null)
const input = ref<HTMLInputElement | null>(null)
const panelName = ref('panel')

const panels = computed(() => job.value?.panels ?? [])
const panel = computed(() => panels.value[at.value] ?? null)
const places = computed(() => {
  let x = 0
  return panels.value.map((p) => {
    const place = { x: x - p.box[0], y: p.box[1] }
    x += p.box[2] + GAP_MM
    return place
  })
})
const box = computed<[number, number, number, number]>(() => {
  const width = panels.value.reduce((w, p) => w + p.box[2] + GAP_MM, -GAP_MM)
  return [0, 0, Math.max(width, 100), Math.max(100, ...panels.value.map((p) => p.box[3]))]
})
const all = computed(() => panel.value?.rings.flatMap((ring, r) => ring.map((_, k) => [r, k] as EdgeRef)) ?? [])
const bare = computed(() => panels.value.flatMap((p) => p.rings.flat()).filter((e) => e.finish !== 'bound' && e.allowance_mm === 0).length)

watch([panels, at], () => {
  if (at.value >= panels.value.length) at.value = Math.max(0, panels.value.length - 1)
  chosen.value = chosen.value.filter(([r, k]) => panel.value?.rings[r]?.[k])
})

async function makePanel() {
  const count = panels.value.length
  const name = panelName.value.trim()
  const made = await state.change(() => answered(client.POST('/api/jobs/{job_id}/panels', { params: { path: state.path }, headers: state.headers(), body: { name } })))
  if (made) at.value = count
}
function pick(k: number, edge: EdgeRef, more: boolean) {
  chosen.value = chosenAfter(k === at.value ? chosen.value : [], edge, more && k === at.value)
  at.value = k
}
async function read(e: Event) {
  const el = e.target as HTMLInputElement
  const file = el.files?.[0]
  el.value = ''
  const count = panels.value.length
  if (file && (await state.readFile(file))) at.value = count
}

// before the job's own keys: with an edge chosen, figures are typed to it
useEventListener(
  window,
  'keydown',
  (e: KeyboardEvent) => {
    if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement || e.ctrlKey || e.metaKey || e.altKey) {
      if (e.key === 'Escape') (e.target as HTMLElement).blur()
      return
    }
    if (!panel.value) return
    if (e.key === 'ArrowRight' || e.key === 'ArrowLeft') {
      e.preventDefault()
      const next = step(panel.value.rings, chosen.value.at(-1) ?? null, e.key === 'ArrowRight' ? 1 : -1)
      if (next) chosen.value = chosenAfter(chosen.value, next, e.shiftKey)
    } else if (e.key === 'Escape') chosen.value = []
    else if (e.key === 'a') chosen.value = all.value
    else if (chosen.value.length && /^[\d.,½¼¾]$/.test(e.key)) {
      e.preventDefault()
      slip.value?.type(e.key)
    }
  },
  { capture: true },
)
</script>

<template>
  <div v-if="job" class="station">
    <div class="stack">
      <BenchTable :box="box" :unit="job.unit" label="Panels on the table" @bare="chosen = []">
        <template #default="{ px }">
          <g v-for="(p, k) in panels" :key="p.name" :transform="`translate(${places[k]!.x} ${places[k]!.y})`">
            <PanelDrawing :panel="p" :px="px" :unit="job.unit" :chosen="chosen" :active="k === at" @pick="(edge, more) => pick(k, edge, more)" />
          </g>
        </template>
        <template v-if="panels.length" #tools><span class="hint soft small">Step through edges with ← →, type to set; a takes all.</span></template>
      </BenchTable>
      <div v-if="!panels.length" class="start">
        <template v-if="job.shape">
          <h2>The outline is ready to become a panel.</h2>
          <form class="row" @submit.prevent="makePanel"><v-text-field v-model="panelName" label="Name on its label" maxlength="80" autofocus /><v-btn type="submit" color="primary" variant="flat" height="48" :disabled="!panelName.trim()">Make the panel</v-btn></form>
        </template>
        <template v-else>
          <h2>Draft wants an outline first.</h2>
          <v-btn color="primary" variant="flat" :to="{ name: 'job', params: { id: job.id, station: 'shape' } }">Photograph the piece</v-btn>
        </template>
        <p class="soft">Or read one that is drawn already:</p>
        <v-btn @click="input?.click()">Read an SVG, DXF or panels file</v-btn>
      </div>
      <input ref="input" type="file" hidden accept=".svg,.dxf,.json" aria-label="Outline file" @change="read" />
    </div>
    <PinnedSlip>
      <template v-if="panel">
        <div v-if="panels.length > 1" class="row" role="group" aria-label="Panels"><v-btn v-for="(p, k) in panels" :key="p.name" :class="{ on: k === at }" :aria-pressed="k === at" @click="((at = k), (chosen = []))">{{ p.name }}</v-btn></div>
        <EdgeSlip v-if="chosen.length" ref="slip" :panel="panel" :index="at" :chosen="chosen" />
        <LabelSlip v-else :panel="panel" :index="at" @removed="chosen = []" />
        <hr />
        <div class="row">
          <v-btn v-if="!chosen.length" @click="chosen = all">Choose all edges</v-btn>
          <v-btn v-else @click="chosen = []">The label</v-btn>
          <v-btn @click="input?.click()">Read a file</v-btn>
          <form v-if="job.shape && !chosen.length" class="row" @submit.prevent="makePanel"><v-text-field v-model="panelName" label="Another panel of the outline" density="compact" maxlength="80" class="wide" /><v-btn type="submit" :disabled="!panelName.trim()">Make</v-btn></form>
        </div>
      </template>
      <template v-else><h2>No panel yet</h2><p class="soft">A panel is the outline as a seam line; each of its edges then gets its own allowance and finish.</p></template>
      <p v-if="bare" class="said stop">{{ bare === 1 ? '1 edge wants an allowance' : `${bare} edges want an allowance` }}; shown in red.</p>
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
  padding: 4px 12px;
  border-radius: 14px;
  background: color-mix(in srgb, var(--paper) 85%, transparent);
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

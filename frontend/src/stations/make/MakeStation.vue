<script setup lang="ts">
import HelpNote from '../../ui/HelpNote.vue'
import { mdiPrinterOutline } from '@mdi/js'
import { computed, reactive, ref } from 'vue'
import PinnedSlip from '../../bench/PinnedSlip.vue'
import ChosenField from '../../ui/ChosenField.vue'
import { download } from '../../state/download'
import { useOpenJob } from '../../state/keys'
import '../../bench/station.css'
import AskedForm from '../../ui/AskedForm.vue'
import InlineField from '../../ui/InlineField.vue'

const state = useOpenJob()
const { job } = state
const paper = ref(localStorage.getItem('paper') ?? 'a4')
const model = ref('10')
const marks = reactive({ across: '', up: '' })
const PAPERS = [
  { value: 'a4', title: 'A4' },
  { value: 'letter', title: 'Letter' },
  { value: 'a3', title: 'A3' },
]
const MODELS = ['4', '5', '8', '10', '20'].map((value) => ({ value, title: `1:${value}` }))

const broken = computed(() => job.value?.panels.find((p) => p.refusal) ?? null)
const ready = computed(() => !!job.value?.panels.length && !broken.value)
const open = computed(() => job.value?.checks.filter((c) => c.severity !== 'fine' && !c.reason) ?? [])
const goods = computed(() => job.value?.covers.flatMap((c) => c.notions) ?? [])
const scaled = computed(() => job.value?.print_scale.some((s) => Math.abs(s - 1) > 1e-9))
const href = (kind: string) => `/api/jobs/${state.id}/export/${kind}`
const pdf = computed(() => `${href('pdf')}?paper=${paper.value}`)
const card = computed(() => `${href('model.pdf')}?paper=${paper.value}&model=${model.value}`)
const picture = computed(() => `${href('picture.svg')}?of=${job.value?.revision}`)

const keepScale = () => state.keep({ kind: 'set_print_scale', ...marks })
const clear = () => state.do({ kind: 'clear_print_scale' })
function keepPaper(value: string) {
  localStorage.setItem('paper', value)
}
</script>

<template>
  <div v-if="job" class="station">
    <section v-if="ready" class="paper-sheet" aria-label="Print">
      <div class="row between">
        <div class="row between">
          <h2>Print the pattern</h2>
          <HelpNote about="make" />
        </div>
        <div class="row">
          <v-select v-model="paper" :items="PAPERS" label="Paper" class="narrow" @update:model-value="keepPaper" />
          <v-btn color="primary" variant="flat" :href="pdf" :prepend-icon="mdiPrinterOutline" @click.prevent="download(pdf)"
            >Get the PDF</v-btn
          >
        </div>
      </div>
      <img class="picture" :src="picture" :alt="`The panels of ${job.name}`" />
      <h2>Cut list</h2>
      <table>
        <thead>
          <tr>
            <th>panel</th>
            <th>what to cut</th>
            <th>which way up</th>
            <th>seam line</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in [...job.panels, ...job.panels.flatMap((p) => p.companions)]" :key="p.name">
            <td>{{ p.name }}</td>
            <td>{{ p.instruction }}</td>
            <td>{{ p.way_up || '—' }}</td>
            <td>{{ p.width }} × {{ p.height }} {{ job.unit }}</td>
          </tr>
        </tbody>
      </table>
      <template v-if="job.cautions.length">
        <h2>Take care</h2>
        <p v-for="c in job.cautions" :key="c">{{ c }}</p>
      </template>
      <template v-if="goods.length || job.cloth.length">
        <h2>To buy</h2>
        <table>
          <tbody>
            <tr v-for="line in job.cloth" :key="line">
              <td>cloth</td>
              <td>{{ line }}</td>
            </tr>
            <tr v-for="(n, k) in goods" :key="k">
              <td>{{ n.kind }}</td>
              <td>{{ n.words }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </section>
    <section v-else class="paper-sheet empty">
      <h2>{{ broken ? 'A panel can’t be drafted, so nothing can be printed.' : 'There is nothing to print yet.' }}</h2>
      <p v-if="broken">{{ broken.refusal }}</p>
      <v-btn color="primary" variant="flat" :to="{ name: 'job', params: { id: job.id, station: 'draft' } }">Go to Draft</v-btn>
    </section>
    <PinnedSlip>
      <template v-if="ready">
        <p v-for="f in open.slice(0, 1)" :key="f.id" class="said" :class="f.severity">{{ f.sentence }}</p>
        <v-btn v-if="open.length" :to="{ name: 'job', params: { id: job.id, station: 'check' } }"
          >{{ open.length === 1 ? '1 thing' : `${open.length} things` }} to settle at Check</v-btn
        >
        <h2>Did it print true?</h2>
        <p class="soft">Measure the two {{ job.test_mark }} marks on the first page with a steel rule.</p>
        <AskedForm class="row" :values="marks" :send="keepScale" @taken="marks.across = marks.up = ''">
          <InlineField v-model="marks.across" :aria-label="`${job.test_mark} mark across measures`" placeholder="across" />
          <InlineField v-model="marks.up" :aria-label="`${job.test_mark} mark up the page measures`" placeholder="up" />
          <v-btn type="submit" :disabled="!marks.across || !marks.up">Save</v-btn>
        </AskedForm>
        <template v-if="scaled">
          <p class="said">
            Prints are now drawn {{ job.print_scale.map((s) => `× ${s.toFixed(4)}`).join(' across, ') }} up, to undo what the printer does.
            Print again and measure.
          </p>
          <v-btn @click="clear">Print true to size again</v-btn>
        </template>
        <details class="whole">
          <summary>Scale model</summary>
          <p class="soft">On card, with tabs and letters, to be cut out, folded and glued before the good cloth is cut.</p>
          <ChosenField v-model="model" title="size" :choices="MODELS" />
          <v-btn :href="card" @click.prevent="download(card)">Get the model</v-btn>
        </details>
      </template>
      <h2>Files</h2>
      <div class="files">
        <template v-if="ready">
          <v-btn :href="href('svg')" @click.prevent="download(href('svg'))">SVG, in mm</v-btn>
          <v-btn :href="href('dxf')" @click.prevent="download(href('dxf'))">DXF, in mm</v-btn>
          <v-btn :href="href('panels.json')" @click.prevent="download(href('panels.json'))">Panels file</v-btn>
          <v-btn :href="`${href('marking.pdf')}?paper=${paper}`" @click.prevent="download(`${href('marking.pdf')}?paper=${paper}`)"
            >Marking out</v-btn
          >
        </template>
        <v-btn :href="href('job.json')" @click.prevent="download(href('job.json'))">The whole job</v-btn>
      </div>
    </PinnedSlip>
  </div>
</template>

<style scoped>
.empty {
  justify-content: center;
  align-items: center;
  text-align: center;
}
.picture {
  flex: 1 1 300px;
  min-height: 220px;
  object-fit: contain;
  background: #fbfaf5;
  border: 1px solid var(--hairline);
  border-radius: 6px;
  padding: 12px;
}
.narrow {
  width: 110px;
}
.files {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 400;
  color: var(--soft-ink);
}
td,
th {
  padding: 8px 12px 8px 0;
  border-bottom: 1px solid var(--hairline);
}
td:first-child {
  font-weight: 600;
}
p a {
  color: inherit;
}
</style>

<script setup lang="ts">
import { computed, onMounted, reactive, ref, shallowRef, watch } from 'vue'
import { ask, Refusal, type Schemas } from '../../api/client'
import { draftOf, fieldsOf, columnsOf, keyOf, rowsOfPieces, suggestedOf, usualOf, type Family } from '../../logic/families'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import FormFields from '../../ui/FormFields.vue'
import FamilyPicture from '../../bench/FamilyPicture.vue'
import RowsTable from '../../ui/RowsTable.vue'
import { withoutRow } from '../../ui/fields'
import { useRefused } from '../../ui/refused'

/** A cover from measures: which kind, and what the tape says; or other measures for one of the job’s covers. */
const props = defineProps<{ cover?: Schemas['CoverView'] | null }>()
const emit = defineEmits<{ close: []; drafted: [] }>()
const state = useOpenJob()
const { job } = state
const families = shallowRef<readonly Family[]>([])
const family = shallowRef<Family | null>(null)
const values = reactive<Record<string, string>>({})
/** The measure whose place on the drawing is shown. */
const shown = ref('')
const waiting = ref(false)
/** What the cover takes as it is drafted and as it would be; nothing once something else is typed. */
const compared = shallowRef<Schemas['NeedView'][]>([])

onMounted(load)
watch(() => job.value?.unit, load)
async function load() {
  try {
    families.value = await ask('get', '/api/jobs/{job_id}/families', { params: { path: { job_id: state.id } } })
    if (props.cover) choose(families.value.find((f) => f.family === props.cover?.family) ?? null)
  } catch (e) {
    sayWrong(e)
  }
}
function choose(now: Family | null) {
  for (const key of Object.keys(values)) delete values[key]
  if (now)
    Object.assign(values, props.cover ? props.cover.values : { ...usualOf(now), ...suggestedOf(now), ...rowsOfPieces(now, pieces.value) })
  family.value = now
}

const EVERY = new Set(['cloth', 'usable_width', 'allowance', 'join_allowance'])
const asks = computed(() => family.value?.asks ?? [])
const measures = computed(() => fieldsOf(asks.value.filter((a) => a.part === 'measures')))
const outlines = computed(() => fieldsOf(asks.value.filter((a) => a.kind === 'outline')))
const places = computed(() => fieldsOf(asks.value.filter((a) => a.kind === 'points')))
const choices = computed(() => fieldsOf(asks.value.filter((a) => a.part === 'choices' && !EVERY.has(a.name))))
const cloth = computed(() => fieldsOf(asks.value.filter((a) => a.part === 'choices' && EVERY.has(a.name))))
const rows = computed(() => asks.value.filter((a) => a.kind === 'rows'))
const kept = computed(() => new Set(props.cover?.outlines))
const pieces = computed(() => (job.value?.pieces ?? []).map((p) => ({ value: p.id, title: p.name })))
const lists = computed(() => ({ piece: [{ value: '', title: kept.value.size ? 'as it is' : '—' }, ...pieces.value] }))

function set(key: string, value: string) {
  values[key] = value
  compared.value = []
  changed(key)
}
const { refused, heard, changed } = useRefused(() => values)
/** What no field of the sheet can say: it is about all of it, or about a row. */
const ofAll = computed(() => {
  const fields = [...measures.value, ...places.value, ...choices.value, ...cloth.value]
  return refused.value && !fields.some((f) => f.key === refused.value?.at) ? refused.value.why : ''
})
async function compare() {
  if (!family.value) return
  const body = draftOf(family.value, values, props.cover)
  try {
    compared.value = await ask('post', '/api/jobs/{job_id}/compared', { params: { path: state.path }, headers: state.headers(), body })
    heard(null)
  } catch (e) {
    if (e instanceof Refusal) heard(e)
    else sayWrong(e)
  }
}
/** The measure that is typed in is shown on the drawing. */
function point(e: FocusEvent) {
  const title = (e.target as HTMLElement).getAttribute('aria-label')
  shown.value = asks.value.find((a) => a.part === 'measures' && a.title === title)?.name ?? shown.value
}
async function draft() {
  if (!family.value || waiting.value) return
  waiting.value = true
  const drafted = heard(await state.keep(draftOf(family.value, values, props.cover)))
  waiting.value = false
  if (drafted) emit('drafted')
}
</script>

<template>
  <section class="sheet paper-sheet" :aria-label="family ? family.title : 'Which kind of cover?'">
    <div class="row between">
      <h2>{{ family ? family.title : 'Which kind of cover is it?' }}</h2>
      <span class="row"
        ><v-btn v-if="family" type="submit" form="measures" color="primary" variant="flat" :disabled="waiting">{{
          cover ? 'Draft it again' : 'Draft the panels'
        }}</v-btn
        ><v-btn v-if="cover" :disabled="waiting" @click="compare">Compare first</v-btn
        ><v-btn v-if="family && !cover" @click="choose(null)">Another kind</v-btn
        ><v-btn @click="emit('close')">Back to the table</v-btn></span
      >
    </div>
    <p v-if="ofAll" class="refused" role="alert">{{ ofAll }}</p>
    <table v-if="compared.length" class="said" aria-label="Compared">
      <thead>
        <tr>
          <th></th>
          <th scope="col">as it is drafted</th>
          <th scope="col">as it is typed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in compared" :key="c.what">
          <th scope="row">{{ c.what }}</th>
          <td v-for="(lines, k) in [c.now, c.then]" :key="k" :class="{ other: k && c.now.join() !== c.then.join() }">
            <p v-for="line in lines" :key="line">{{ line }}</p>
            <p v-if="!lines.length">—</p>
          </td>
        </tr>
      </tbody>
    </table>
    <div v-if="!family" class="choices kinds">
      <button v-for="f in families" :key="f.family" class="kind" @click="choose(f)">
        <FamilyPicture :family="f.family" plain />
        <b>{{ f.title }}</b><span>{{ f.makes }}</span>
      </button>
    </div>
    <form v-else id="measures" class="asked" @submit.prevent="draft" @focusin="point">
      <div class="drawing">
        <FamilyPicture :family="family.family" :shown="shown" />
        <p class="soft makes">{{ family.makes }}. Lengths in {{ job?.unit }}, unless you write the unit.</p>
        <template v-if="!cover && family.suggested.length">
          <h3>From the brief</h3>
          <ul>
            <li v-for="s in family.suggested" :key="s.name">{{ s.why }}</li>
          </ul>
          <p class="soft small">It stands in the fields; type over what you know better.</p>
        </template>
        <p v-if="cover" class="soft">Drafted again, what you changed by hand stays wherever it still makes sense.</p>
      </div>
      <div class="part">
        <h3>What the tape says</h3>
        <FormFields :fields="measures" :values="values" :refused="refused" @set="set" />
        <FormFields :fields="places" :values="values" :refused="refused" @set="set" />
        <template v-if="outlines.length"
          ><h3>Or captured</h3>
          <p v-if="!pieces.length" class="soft small">Nothing is captured in this job yet.</p>
          <FormFields v-else :fields="outlines" :values="values" :lists="lists" @set="set" />
        </template>
      </div>
      <div class="part">
        <h3>How it is made</h3>
        <FormFields :fields="choices" :values="values" :refused="refused" @set="set" />
        <details>
          <summary>Cloth and seams</summary>
          <FormFields :fields="cloth" :values="values" :refused="refused" @set="set" />
        </details>
      </div>
      <RowsTable
        v-for="a in rows"
        :key="a.name"
        :title="a.title"
        :of="keyOf(a)"
        :columns="columnsOf(a, pieces)"
        :values="values"
        :unit="job?.unit ?? 'mm'"
        @set="set"
        @less="withoutRow(values, keyOf(a), $event)"
      />
    </form>
  </section>
</template>

<style scoped>
.sheet {
  position: absolute;
  inset: 0;
  z-index: 2;
}
.said th {
  padding: 4px 16px 4px 0;
  text-align: left;
  vertical-align: top;
  white-space: nowrap;
}
.said td {
  width: 50%;
  padding: 4px 16px 4px 0;
  vertical-align: top;
}
.other {
  font-weight: 700;
}
.choices.kinds {
  grid-template-columns: repeat(auto-fill, minmax(196px, 1fr));
  gap: 12px;
}
.choices .kind {
  grid-template-columns: 76px 1fr;
  gap: 0 12px;
  place-items: center start;
  min-height: 96px;
  padding: 8px 12px;
  text-align: left;
  font-size: inherit;
  line-height: 1.25;
}
.kind:hover {
  border-color: var(--woad);
}
.kind .picture {
  grid-row: 1 / 3;
}
.kind b {
  align-self: end;
}
.kind span {
  align-self: start;
  font-size: 13px;
  color: var(--soft-ink);
}
.asked {
  display: grid;
  grid-template-columns: minmax(190px, 1fr) minmax(220px, 1fr) minmax(220px, 1fr);
  gap: 12px 28px;
  align-items: start;
}
.drawing {
  position: sticky;
  top: 0;
}
.makes::first-letter {
  text-transform: uppercase;
}
@media (max-width: 900px) {
  .asked {
    grid-template-columns: minmax(0, 1fr);
  }
  .drawing {
    position: static;
    max-width: 240px;
  }
}
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answered, client, type Panel, type Schemas } from '../api/client'
import type { EdgeRef } from '../logic/steps'
import { useOpenJob } from '../state/keys'
import FoldPicture from './FoldPicture.vue'

const props = defineProps<{ panel: Panel; index: number; chosen: readonly EdgeRef[] }>()
const state = useOpenJob()
const { job } = state
const FINISHES = [
  { key: 'plain', title: 'plain' },
  { key: 'hem', title: 'hem' },
  { key: 'bound', title: 'bound' },
] as const
const CORNERS = [
  { key: 'mitre', title: 'mitre' },
  { key: 'square', title: 'square' },
  { key: 'bevel', title: 'cut off' },
  { key: 'mirror', title: 'turned' },
] as const

const edges = computed(() => props.chosen.flatMap(([r, k]) => props.panel.rings[r]?.[k] ?? []))
const first = computed(() => edges.value[0] ?? null)
const allowance = ref('')
const name = ref('')
const along = ref('')
const field = ref<HTMLInputElement | null>(null)
const same = <K extends 'allowance' | 'finish' | 'corner'>(key: K) => (edges.value.every((e) => e[key] === first.value?.[key]) ? first.value?.[key] ?? '' : '')
const notches = computed(() => (props.panel.drafted?.notches ?? []).map((n, k) => ({ ...n, k })).filter((n) => props.chosen.length === 1 && props.chosen[0]![0] === 0 && n.edge === props.chosen[0]![1]))
const findings = computed(() => (props.panel.drafted?.findings ?? []).filter((f) => edges.value.some((e) => e.name === f.place?.edge)))

watch(
  () => [props.chosen, job.value?.revision],
  () => {
    allowance.value = same('allowance')
    name.value = first.value?.name ?? ''
  },
  { immediate: true },
)

const path = () => ({ ...state.path, index: props.index })
async function set(what: Omit<Schemas['EdgesIn'], 'chosen'>) {
  const body = { ...what, chosen: props.chosen.map(([r, k]) => [r, k] as [number, number]) }
  const kept = await state.change(() => answered(client.PUT('/api/jobs/{job_id}/panels/{index}/edges', { params: { path: path() }, headers: state.headers(), body })))
  if (!kept && allowance.value === what.allowance) allowance.value = same('allowance')
}
function setAllowance() {
  if (allowance.value.trim() && allowance.value !== same('allowance')) set({ allowance: allowance.value })
}
const setName = () => name.value.trim() && name.value !== first.value?.name && set({ name: name.value })
const addNotch = (text: string, double: boolean) =>
  state.change(() => answered(client.POST('/api/jobs/{job_id}/panels/{index}/notches', { params: { path: path() }, headers: state.headers(), body: { edge: props.chosen[0]![1], along: text, double } })))
const removeNotch = (notch: number) =>
  state.change(() => answered(client.DELETE('/api/jobs/{job_id}/panels/{index}/notches/{notch}', { params: { path: { ...path(), notch } }, headers: state.headers() })))

/** Begin typing an allowance with this key. */
function type(key: string) {
  allowance.value = key
  field.value?.focus()
}
defineExpose({ type })
</script>

<template>
  <div v-if="first" class="edge-slip">
    <div class="line">
      <input v-if="edges.length === 1" v-model="name" class="name" aria-label="Name of the edge" maxlength="40" @change="setName" />
      <h2 v-else>{{ edges.length }} edges</h2>
      <span class="soft small">{{ edges.length === 1 ? `${first.kind}${first.radius ? ` r ${first.radius}` : ''}` : edges.map((e) => e.name).join(', ') }}</span>
    </div>
    <p v-if="edges.length === 1" class="soft">{{ first.length }} {{ job?.unit }} long on the seam line</p>
    <label class="soft" for="allowance">Allowance</label>
    <div class="line start"><input id="allowance" ref="field" v-model="allowance" class="figure" inputmode="decimal" :placeholder="edges.length > 1 ? 'differ' : '0'" autocomplete="off" @change="setAllowance" @focus="($event.target as HTMLInputElement).value === same('allowance') && ($event.target as HTMLInputElement).select()" /><b>{{ job?.unit }}</b></div>
    <p class="soft">How the edge is finished</p>
    <div class="choices" role="group" aria-label="How the edge is finished">
      <button v-for="f in FINISHES" :key="f.key" :aria-pressed="same('finish') === f.key" @click="set({ finish: f.key })"><FoldPicture :kind="f.key" />{{ f.title }}</button>
    </div>
    <p class="soft">Corner at its end</p>
    <div class="choices four" role="group" aria-label="Corner at its end">
      <button v-for="c in CORNERS" :key="c.key" :aria-pressed="same('corner') === c.key" @click="set({ corner: c.key })"><FoldPicture :kind="c.key" />{{ c.title }}</button>
    </div>
    <p v-for="f in findings" :key="f.sentence" class="said" :class="f.severity">{{ f.sentence }}</p>
    <template v-if="chosen.length === 1 && chosen[0]![0] === 0">
      <p class="soft">Notches, measured from its start</p>
      <p v-for="n in notches" :key="n.k" class="line"><span>{{ n.double ? 'double' : 'single' }} at {{ panel.notch_texts[n.k] }} {{ job?.unit }}</span><v-btn size="small" height="40" @click="removeNotch(n.k)">Remove</v-btn></p>
      <form class="line" @submit.prevent="addNotch(along, false)">
        <input v-model="along" class="short" aria-label="Notch at, from the start of the edge" placeholder="at" inputmode="decimal" />
        <v-btn type="submit" :disabled="!along">Notch</v-btn>
        <v-btn :disabled="!along" @click="addNotch(along, true)">Double</v-btn>
      </form>
    </template>
  </div>
</template>

<style scoped>
.edge-slip {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
}
.line.start {
  justify-content: flex-start;
}
.name {
  font-size: 19px;
  font-weight: 700;
  width: 60%;
  min-height: 40px;
}
input {
  font-family: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1.5px solid var(--hairline);
}
.figure {
  width: 190px;
  border-bottom: 2.5px solid var(--ink);
}
.short {
  width: 80px;
  min-height: 44px;
  font-size: 15px;
}
.choices {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
.choices.four {
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}
.choices button {
  display: grid;
  justify-items: center;
  gap: 2px;
  min-height: 60px;
  padding: 8px 2px 6px;
  font: inherit;
  font-size: 14px;
  color: inherit;
  background: var(--table);
  border: 1px solid var(--hairline);
  border-radius: 8px;
  cursor: pointer;
}
.choices button[aria-pressed='true'] {
  background: var(--woad-pale);
  border: 2.5px solid var(--woad);
  font-weight: 700;
}
.choices :deep(svg) {
  max-width: 100%;
}
</style>

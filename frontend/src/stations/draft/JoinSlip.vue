<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef } from 'vue'
import type { Schemas } from '../../api/client'
import { sideOf } from '../../logic/joins'
import { useOpenJob } from '../../state/keys'
import ChosenField from '../../ui/ChosenField.vue'
import TypedField from '../../ui/TypedField.vue'
import WalkPicture from '../../bench/WalkPicture.vue'

/** What is sewn to what: each join walked and changed, and edges joined by pointing at them. */
const props = defineProps<{ chosen: readonly string[] }>()
const emit = defineEmits<{ show: [join: Schemas['JoinView']]; joined: [] }>()
const state = useOpenJob()
const { job } = state
const SEAMS = ['any', 'plain', 'french', 'felled', 'lapped', 'piped', 'bound', 'zip', 'by_hand'].map((value) => ({
  value,
  title: value === 'any' ? 'as the edges are' : value.replace('_', ' '),
}))
const MEANT = [
  { value: 'equal', title: 'equal' },
  { value: 'eased', title: 'one eased in' },
  { value: 'gathered', title: 'one gathered' },
]
const PARTS = [
  { value: '', title: 'as they are' },
  { value: '2', title: 'in the middle' },
  { value: '3', title: 'at thirds' },
  { value: '4', title: 'at quarters' },
  { value: '8', title: 'at eighths' },
]
const opened = ref('')
const card = useTemplateRef<HTMLElement[]>('card')
const fullness = ref('')
const first = ref<string[]>([])
const how = reactive({ seam: 'any', meant: 'equal', fullness: '2', parts: '2' })
const rings = computed(() => (job.value?.panels ?? []).map((p) => ({ id: p.id, name: p.name, edges: p.rings[0] ?? [] })))
const names = (edges: readonly string[]) =>
  edges.map((id) => rings.value.flatMap((p) => p.edges).find((e) => e.of === id)?.own_name ?? '').join(', ')

function open(j: Schemas['JoinView']) {
  opened.value = opened.value === j.id ? '' : j.id
  fullness.value = j.fullness
  emit('show', j)
  void nextTick(() => card.value?.[0]?.scrollIntoView?.({ block: 'nearest' }))
}
const set = (j: Schemas['JoinView'], what: Partial<Schemas['SetJoin']>) =>
  state.do({ kind: 'set_join', join: j.id, seam: null, meant: null, fullness: null, parts: null, ...what })
const sew = (j: Schemas['JoinView'], place: number) => state.do({ kind: 'sew_join', join: j.id, place })
const partsOf = (typed: string | undefined) => (typed ? (Number(typed) as Schemas['SetJoin']['parts']) : null)
async function join() {
  const change = {
    kind: 'join_edges' as const,
    first: sideOf(rings.value, first.value, false),
    second: sideOf(rings.value, props.chosen, true),
    seam: how.seam as Schemas['JoinEdges']['seam'],
    meant: how.meant as Schemas['JoinEdges']['meant'],
    fullness: how.meant === 'gathered' ? how.fullness : 1,
    parts: partsOf(how.parts),
  }
  if (!(await state.do(change))) return
  first.value = []
  emit('joined')
}
</script>

<template>
  <div class="part">
    <h2>Joins</h2>
    <p v-if="!job?.joins.length" class="soft">Nothing is joined yet. Choose the edges of one side on the table.</p>
    <ul v-else>
      <li v-for="(j, k) in job.joins" :key="j.id" class="join" :class="{ wrong: j.verdict === 'mismatch' || !j.verdict }">
        <button class="words" :aria-expanded="opened === j.id" @click="open(j)">
          <i aria-hidden="true">{{ j.letter }}</i>{{ j.words }}
        </button>
        <div v-if="opened === j.id" ref="card" class="part">
          <WalkPicture v-if="j.walked" :walked="j.walked" :wrong="j.verdict === 'mismatch'" />
          <p v-if="j.walked?.on_top" class="small">{{ j.walked.on_top }}</p>
          <ChosenField
            :model-value="j.seam"
            title="seam"
            :choices="SEAMS"
            @update:model-value="(seam) => set(j, { seam: seam as Schemas['SetJoin']['seam'] })"
          />
          <ChosenField
            :model-value="j.meant"
            title="lengths"
            :choices="MEANT"
            @update:model-value="(meant) => set(j, { meant: meant as Schemas['SetJoin']['meant'] })"
          />
          <TypedField v-if="j.meant === 'gathered'" v-model="fullness" title="gathered, times" @change="set(j, { fullness })" />
          <ChosenField
            model-value=""
            title="matched notches"
            :choices="PARTS"
            @update:model-value="(parts) => set(j, { parts: partsOf(parts) })"
          />
          <div class="row">
            <span>Sewn as {{ k + 1 }} of {{ job.joins.length }}</span>
            <v-btn :disabled="k === 0" :aria-label="`Sew ${j.letter} sooner`" @click="sew(j, k)">Sooner</v-btn>
            <v-btn :disabled="k + 1 === job.joins.length" :aria-label="`Sew ${j.letter} later`" @click="sew(j, k + 2)">Later</v-btn>
          </div>
          <v-btn :aria-label="`Remove join ${j.letter}`" @click="state.do({ kind: 'remove_join', join: j.id })">Remove</v-btn>
        </div>
      </li>
    </ul>
    <form class="part" @submit.prevent="join">
      <h3>Join edges</h3>
      <p v-if="!first.length && !chosen.length" class="soft small">Point at the edges of one side, Shift for more.</p>
      <div v-if="!first.length" class="row">
        <v-btn :disabled="!chosen.length" @click="first = [...chosen]">This is one side</v-btn>
      </div>
      <template v-else>
        <p>One side: {{ names(first) }}. Now choose the edges of the other.</p>
        <ChosenField v-model="how.seam" title="seam" :choices="SEAMS" />
        <ChosenField v-model="how.meant" title="lengths" :choices="MEANT" />
        <TypedField v-if="how.meant === 'gathered'" v-model="how.fullness" title="gathered, times" />
        <ChosenField v-model="how.parts" title="matched notches" :choices="PARTS" />
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" :disabled="!chosen.length || chosen.join() === first.join()">Join them</v-btn
          ><v-btn @click="first = []">Cancel</v-btn>
        </div>
      </template>
    </form>
  </div>
</template>

<style scoped>
ul {
  padding: 0;
  list-style: none;
}
.join {
  padding: 4px 6px;
  border-radius: 6px;
}
.join .words {
  width: 100%;
  text-align: left;
}
.wrong {
  background: var(--madder-pale);
}
i {
  display: inline-block;
  min-width: 26px;
  margin-right: 8px;
  padding: 1px 10px 1px 7px;
  font-style: normal;
  font-weight: 700;
  text-align: center;
  color: var(--tape-ink);
  background: var(--tape-filled);
  clip-path: polygon(0 0, 100% 0, calc(100% - 6px) 50%, 100% 100%, 0 100%);
}
</style>

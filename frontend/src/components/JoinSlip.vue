<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import type { Schemas } from '../api/client'
import { sideOf } from '../logic/joins'
import { useOpenJob } from '../state/keys'
import ChosenField from '../ui/ChosenField.vue'

/** What is sewn to what: each join walked, and edges joined by pointing at them. */
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
const first = ref<string[]>([])
const how = reactive({ seam: 'any', meant: 'equal', fullness: '2' })
const rings = computed(() => (job.value?.panels ?? []).map((p) => ({ id: p.id, name: p.name, edges: p.rings[0] ?? [] })))
const names = (edges: readonly string[]) =>
  edges.map((id) => rings.value.flatMap((p) => p.edges).find((e) => e.of === id)?.own_name ?? '').join(', ')

async function join() {
  const change = {
    kind: 'join_edges' as const,
    first: sideOf(rings.value, first.value, false),
    second: sideOf(rings.value, props.chosen, true),
    seam: how.seam as Schemas['JoinEdges']['seam'],
    meant: how.meant as Schemas['JoinEdges']['meant'],
    fullness: how.meant === 'gathered' ? how.fullness : 1,
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
    <div v-for="j in job?.joins" :key="j.id" class="row join" :class="{ wrong: j.verdict === 'mismatch' || !j.verdict }">
      <button class="words" @click="emit('show', j)">
        <i aria-hidden="true">{{ j.letter }}</i>{{ j.words }}</button
      ><v-btn size="small" height="40" :aria-label="`Remove join ${j.letter}`" @click="state.do({ kind: 'remove_join', join: j.id })"
        >Remove</v-btn
      >
    </div>
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
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" :disabled="!chosen.length || chosen.join() === first.join()">Join them</v-btn
          ><v-btn @click="first = []">Cancel</v-btn>
        </div>
      </template>
    </form>
  </div>
</template>

<style scoped>
.join {
  flex-wrap: nowrap;
  padding: 4px 6px;
  border-radius: 6px;
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

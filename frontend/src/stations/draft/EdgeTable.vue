<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { CORNERS, FINISHES, MORE_FINISHES } from '../../logic/finishes'
import { ownEdges } from '../../logic/steps'
import { drawnEdge } from '../../state/draft'
import { useOpenJob } from '../../state/keys'
import InlineChoice from '../../ui/InlineChoice.vue'
import InlineField from '../../ui/InlineField.vue'

/** All edges of all panels in one table: some are ticked and set at once. */
const emit = defineEmits<{ close: [] }>()
const state = useOpenJob()
const { job } = state
const EVERY = [...FINISHES, ...MORE_FINISHES]
const ticked = ref<Set<string>>(new Set())
const allowance = ref('')
const finish = ref<(typeof EVERY)[number]['key'] | ''>('')
const corner = ref<(typeof CORNERS)[number]['key'] | ''>('')
const asChoices = <K extends string>(list: readonly { key: K; title: string }[]) => list.map(({ key, title }) => ({ value: key, title }))
const titleOf = (list: readonly { key: string; title: string }[], key: string) => list.find((f) => f.key === key)?.title ?? key

const rows = computed(() =>
  (job.value?.panels ?? []).flatMap((p) => ownEdges(p.rings).map((id) => ({ key: id, panel: p.name, edge: drawnEdge(p, id)! }))),
)
const chosen = computed(() => rows.value.filter((r) => ticked.value.has(r.key)))
function tick(key: string) {
  const next = new Set(ticked.value)
  if (!next.delete(key)) next.add(key)
  ticked.value = next
}
const tickAll = () => (ticked.value = chosen.value.length === rows.value.length ? new Set() : new Set(rows.value.map((r) => r.key)))
const tickLike = () => {
  const like = new Set(chosen.value.map((r) => r.edge.finish))
  ticked.value = new Set(rows.value.filter((r) => like.has(r.edge.finish)).map((r) => r.key))
}
async function set(what: Omit<Schemas['SetEdges'], 'edges' | 'kind'>) {
  await state.do({ kind: 'set_edges', edges: chosen.value.map((r) => r.key), ...what })
  allowance.value = finish.value = corner.value = ''
}
</script>

<template>
  <section class="edges paper-sheet" aria-label="All edges">
    <div class="row between">
      <h2>All edges of all panels</h2>
      <v-btn @click="emit('close')">Back to the table</v-btn>
    </div>
    <form class="row" @submit.prevent="allowance && set({ allowance })">
      <b>{{ chosen.length }} ticked:</b>
      <InlineField v-model="allowance" class="middling" aria-label="Allowance of the ticked edges" placeholder="allowance" /><v-btn
        type="submit"
        :disabled="!chosen.length || !allowance"
        >Set</v-btn
      >
      <v-btn :disabled="!chosen.length" @click="set({ by_rule: true })">By rule</v-btn>
      <InlineChoice
        v-model="finish"
        class="middling"
        :choices="asChoices(EVERY)"
        hint="finish …"
        aria-label="Finish of the ticked edges"
        :disabled="!chosen.length"
        @change="finish && set({ finish })"
      />
      <InlineChoice
        v-model="corner"
        class="middling"
        :choices="asChoices(CORNERS)"
        hint="corner …"
        aria-label="Corner of the ticked edges"
        :disabled="!chosen.length"
        @change="corner && set({ corner })"
      />
      <v-btn @click="tickAll">All</v-btn><v-btn :disabled="!chosen.length" @click="tickLike">Those finished alike</v-btn>
    </form>
    <table>
      <thead>
        <tr>
          <th></th>
          <th>panel</th>
          <th>edge</th>
          <th>long</th>
          <th>finish</th>
          <th>allowance</th>
          <th>corner at its end</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.key" :class="{ on: ticked.has(r.key) }" @click="tick(r.key)">
          <td>
            <input type="checkbox" :checked="ticked.has(r.key)" :aria-label="`${r.panel}, ${r.edge.own_name}`" @click.stop="tick(r.key)" />
          </td>
          <td>{{ r.panel }}</td>
          <td>{{ r.edge.own_name }}</td>
          <td class="n">{{ r.edge.length }}</td>
          <td>{{ titleOf(EVERY, r.edge.finish) }}</td>
          <td class="n">
            {{ r.edge.allowance }}<span class="soft">{{ r.edge.by_rule ? ' rule' : '' }}</span>
          </td>
          <td>
            {{ titleOf(CORNERS, r.edge.corner) }}<span class="soft">{{ r.edge.corner_set === 'by_rule' ? ' · by rule' : '' }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.middling {
  width: 120px;
}
.edges {
  position: absolute;
  inset: 0;
  z-index: 2;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  color: var(--soft-ink);
  font-weight: 600;
}
td,
th {
  padding: 6px 10px;
  border-bottom: 1px solid var(--hairline);
  height: 44px;
}
.n {
  font-variant-numeric: tabular-nums;
}
tr.on {
  background: var(--woad-pale);
}
tbody tr {
  cursor: pointer;
}
</style>

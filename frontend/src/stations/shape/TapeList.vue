<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'
import { useOpenJob, useShapeBench } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'

const state = useOpenJob()
const { work } = useShapeBench()
const { job } = state
const tape = computed(() => job.value?.shape?.tape ?? [])

const keep = (measure: string) => (typed: string) => state.keep({ kind: 'set_measure', measure, tape: typed })
const remove = (measure: string) => state.do({ kind: 'remove_measure', measure })
</script>

<template>
  <section aria-label="Tape list">
    <h2>Tape list</h2>
    <p class="soft small">Point at two corners, or at an edge: what the outline says stands beside what your tape says.</p>
    <table v-if="tape.length">
      <thead>
        <tr>
          <th>between</th>
          <th>outline</th>
          <th>tape</th>
          <th>apart</th>
          <th><span class="visually-hidden">remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="t in tape" :key="t.id" :class="{ wrong: t.close === false }">
          <td>{{ t.name }}</td>
          <td class="n">{{ t.outline }}</td>
          <td>
            <EntryField :label="`Tape says, ${t.name}`" :value="t.tape ?? ''" hint="type" :keep="keep(t.id)" />
          </td>
          <td class="n">{{ t.close === false ? '▲ ' : '' }}{{ t.apart ?? '' }}</td>
          <td>
            <button :aria-label="`Remove ${t.name} from the list`" @click="remove(t.id)">
              <svg viewBox="0 0 24 24" width="18" height="18" aria-hidden="true"><path :d="mdiClose" fill="currentColor" /></svg>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <div v-if="tape.some((t) => t.tape)" class="row scale">
      <v-btn size="small" @click="work.scale(false)">Scale to the tape</v-btn>
      <v-btn size="small" @click="work.scale(true)">Width and height apart</v-btn>
      <v-btn size="small" @click="work.bend">Bend to the tape</v-btn>
    </div>
    <p v-if="tape.some((t) => t.tape)" class="soft small">
      Scaling keeps the shape; bending changes it as little as meets the tape; doing neither trusts the outline.
    </p>
  </section>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: 6px;
}
th {
  text-align: left;
  font-size: 13px;
  font-weight: 400;
  color: var(--soft-ink);
  padding-right: 6px;
}
td :deep(.typed) {
  width: 68px;
}
td {
  border-top: 1px solid var(--hairline);
  height: 46px;
  padding-right: 6px;
}
tbody tr {
  font-weight: 600;
}
.n {
  white-space: nowrap;
}
.scale {
  margin: 10px 0;
}
td:last-child,
th:last-child {
  padding-right: 0;
}
td button {
  width: 44px;
  height: 44px;
  margin-right: -12px;
  background: none;
  border: 0;
  color: var(--soft-ink);
  cursor: pointer;
}
</style>

<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Schemas } from '../../api/client'
import WalkPicture from '../../bench/WalkPicture.vue'
import { MEANT, PARTS, SEAMS } from '../../logic/joinChoices'
import { sideOf } from '../../logic/joins'
import { drawnEdge } from '../../state/draft'
import { useDraftBench, useOpenJob } from '../../state/keys'
import AskedForm from '../../ui/AskedForm.vue'
import ChosenField from '../../ui/ChosenField.vue'
import EntryField from '../../ui/EntryField.vue'
import TypedField from '../../ui/TypedField.vue'
import { partsOf, useJoin } from './useJoin'

/** The chosen join walked; or all joins in the order of sewing, and edges joined by pointing at both sides. */
const state = useOpenJob()
const { job } = state
const { panels, chosen, oneSide: first, drop, pickJoin } = useDraftBench()
const { join, set, keep } = useJoin()
const how = reactive({ seam: 'any', meant: 'equal', fullness: '2', parts: '2' })
const rings = computed(() => panels.value.map((p) => ({ id: p.id, edges: p.rings[0] ?? [] })))
const names = (edges: readonly string[]) =>
  edges
    .flatMap((id) => panels.value.map((p) => drawnEdge(p, id)?.own_name))
    .filter(Boolean)
    .join(', ')
const place = computed(() => job.value?.joins.findIndex((j) => j.id === join.value?.id) ?? -1)
const sew = (at: number) => state.do({ kind: 'sew_join', join: join.value!.id, place: at })

function oneSide() {
  first.value = [...chosen.value]
  drop()
}
const joinThem = () =>
  state.keep({
    kind: 'join_edges',
    first: sideOf(rings.value, first.value, false),
    second: sideOf(rings.value, chosen.value, true),
    seam: how.seam as Schemas['JoinEdges']['seam'],
    meant: how.meant as Schemas['JoinEdges']['meant'],
    fullness: how.meant === 'gathered' ? how.fullness : 1,
    parts: partsOf(how.parts),
  })
function joined() {
  first.value = []
  drop()
}
</script>

<template>
  <div v-if="join" class="part">
    <h2>
      <i aria-hidden="true">{{ join.letter }}</i>{{ join.words }}
    </h2>
    <WalkPicture v-if="join.walk" :walk="join.walk" :wrong="join.verdict === 'mismatch'" />
    <p v-if="join.walk?.on_top" class="small">{{ join.walk.on_top }}</p>
    <label v-if="join.meant === 'gathered'" class="row between"
      >gathered<EntryField
        :key="join.id"
        label="gathered, times"
        unit="times"
        :value="join.fullness"
        :keep="(fullness) => keep({ fullness })"
    /></label>
    <ChosenField model-value="" title="matched notches" :choices="PARTS" @update:model-value="(parts) => set({ parts: partsOf(parts) })" />
    <div class="row between">
      <span>sewn as {{ place + 1 }} of {{ job?.joins.length }}</span>
      <v-btn :disabled="place === 0" :aria-label="`Sew ${join.letter} sooner`" @click="sew(place)">Sooner</v-btn>
      <v-btn :disabled="place + 1 === job?.joins.length" :aria-label="`Sew ${join.letter} later`" @click="sew(place + 2)">Later</v-btn>
    </div>
    <div class="row">
      <v-btn @click="drop">All joins</v-btn>
      <v-btn color="error" :aria-label="`Remove join ${join.letter}`" @click="state.do({ kind: 'remove_join', join: join.id })"
        >Remove</v-btn
      >
    </div>
  </div>
  <div v-else class="part">
    <h2>What is sewn to what</h2>
    <AskedForm class="part" :values="{ ...how, edges: chosen.join() }" :send="joinThem" @taken="joined">
      <p v-if="!first.length && !chosen.length" class="soft">Point at the edges of one side, with Shift for more.</p>
      <v-btn v-else-if="!first.length" color="primary" variant="flat" @click="oneSide">This is one side: {{ names(chosen) }}</v-btn>
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
    </AskedForm>
    <p v-if="!job?.joins.length" class="soft">Nothing is joined yet.</p>
    <ol v-else-if="!first.length" aria-label="Joins, in the order of sewing">
      <li v-for="j in job.joins" :key="j.id" :class="{ wrong: j.verdict === 'mismatch' || !j.verdict }">
        <button class="words" @click="pickJoin(j.id)">
          <i aria-hidden="true">{{ j.letter }}</i>{{ j.words }}
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-radius: 6px;
}
.words {
  width: 100%;
}
h2 {
  font-size: 16px;
  line-height: 1.3;
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

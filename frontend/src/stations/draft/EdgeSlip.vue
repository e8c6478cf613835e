<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import ClothPicture from '../../bench/ClothPicture.vue'
import { FINISHES, MORE_FINISHES } from '../../logic/finishes'
import { useDraftBench, useOpenJob } from '../../state/keys'
import AskedForm from '../../ui/AskedForm.vue'
import EntryField from '../../ui/EntryField.vue'
import InlineChoice from '../../ui/InlineChoice.vue'
import InlineField from '../../ui/InlineField.vue'
import SaidNotes from '../../ui/SaidNotes.vue'
import { noteOf } from './notes'
import { useEdges } from './useEdges'

/** How the chosen edges are finished, where their allowance comes from, and what else is done to one. */
const state = useOpenJob()
const { job } = state
const draft = useDraftBench()
const { panel, chosen } = draft
const { edges, first, same, set, keep } = useEdges()
const along = ref('')
const carried = ref<'cord' | 'elastic'>('cord')
const outline = computed(() => panel.value?.rings[0]?.some((e) => e.of === chosen.value[0]))
const findings = computed(() => (panel.value?.draft?.findings ?? []).filter((f) => edges.value.some((e) => e.name === f.place?.edge)))
/** What stands on the chosen edge, or at the corner at its end. */
const features = computed(() => (edges.value.length === 1 ? (panel.value?.features.filter((f) => f.edge === chosen.value[0]) ?? []) : []))
/** The usual finishes and, of the others, the one that is set; all of those while they are looked through. */
const usual = computed(() => [...FINISHES, ...MORE_FINISHES.filter((f) => f.key === same('finish'))])
const looking = ref(false)
watch(chosen, () => (looking.value = false))
watch(first, (e) => (carried.value = e?.elastic ? 'elastic' : 'cord'), { immediate: true })

async function setRare(finish: (typeof MORE_FINISHES)[number]['key']) {
  await set({ finish })
  looking.value = false
}
const keepCarried = (width: string) =>
  keep(carried.value === 'cord' ? { cord: width, elastic: '', by_rule: true } : { elastic: width, cord: '', by_rule: true })
const split = () => state.keep({ kind: 'split_edge', edge: chosen.value[0]!, along: along.value })
const merge = () => state.do({ kind: 'merge_edges', edge: chosen.value[0]! })
</script>

<template>
  <div v-if="first" class="part">
    <div class="row between">
      <EntryField
        v-if="edges.length === 1"
        words
        label="Name of the edge"
        :value="first.own_name"
        :keep="(name) => keep({ name })"
        class="name"
        @left="draft.leave()"
      />
      <h2 v-else>{{ edges.length }} edges</h2>
      <span class="soft small">{{
        edges.length === 1 ? `${first.kind}${first.radius ? ` r ${first.radius}` : ''}` : edges.map((e) => e.name).join(', ')
      }}</span>
    </div>
    <p class="row between small rule">
      <span class="soft">{{ first.by_rule ? first.rule : `Typed; by the rule it would be ${first.rule}` }}</span><v-btn
        v-if="!first.by_rule"
        size="small"
        height="44"
        @click="set({ by_rule: true })"
        >Back to the rule</v-btn
      >
    </p>
    <div class="choices" role="group" aria-label="How the edge is finished">
      <button v-for="f in usual" :key="f.key" :aria-pressed="same('finish') === f.key" @click="set({ finish: f.key })">
        <ClothPicture :kind="f.key" />{{ f.title }}
      </button>
    </div>
    <details :open="looking" @toggle="looking = ($event.target as HTMLDetailsElement).open">
      <summary>More finishes</summary>
      <div class="choices" role="group" aria-label="More finishes">
        <button v-for="f in MORE_FINISHES" :key="f.key" :aria-pressed="same('finish') === f.key" @click="setRare(f.key)">
          <ClothPicture :kind="f.key" />{{ f.title }}
        </button>
      </div>
    </details>
    <template v-if="same('finish') === 'casing'">
      <div class="row between">
        <InlineChoice
          v-model="carried"
          class="carries"
          aria-label="it carries"
          :choices="[
            { value: 'cord', title: 'a cord, across' },
            { value: 'elastic', title: 'elastic, wide' },
          ]"
        /><EntryField
          :label="carried === 'cord' ? 'Diameter of the cord' : 'Width of the elastic'"
          :value="same(carried)"
          :unit="job?.unit"
          :keep="keepCarried"
          @left="draft.leave()"
        />
      </div>
    </template>
    <label v-if="same('finish') === 'casing' || same('finish') === 'double_hem'" class="row between"
      >turned under<EntryField
        label="Turned under"
        :value="same('turn_under')"
        :unit="job?.unit"
        :keep="(under) => keep({ turn_under: under })"
        @left="draft.leave()"
    /></label>
    <p v-for="f in features" :key="f.id" class="soft">{{ f.words }}</p>
    <SaidNotes :notes="findings.map(noteOf)" />
    <AskedForm v-if="edges.length === 1 && outline" class="row split" :values="{ along }" :send="split" @taken="along = ''">
      <InlineField v-model="along" aria-label="At, from the start of the edge" placeholder="at" />
      <v-btn size="small" height="44" type="submit" :disabled="!along">Split</v-btn>
      <v-btn size="small" height="44" @click="merge">Merge with next</v-btn>
    </AskedForm>
  </div>
</template>

<style scoped>
.rule {
  flex-wrap: nowrap;
}
.carries {
  width: 150px;
}
.split {
  gap: 6px;
}
.split > input {
  width: 56px;
}
.name :deep(input) {
  font-size: 19px;
  font-weight: 700;
  background: none;
}
</style>

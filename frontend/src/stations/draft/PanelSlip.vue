<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { useDraftBench, useOpenJob } from '../../state/keys'
import ChosenField from '../../ui/ChosenField.vue'
import EntryField from '../../ui/EntryField.vue'
import SaidNotes from '../../ui/SaidNotes.vue'
import TickField from '../../ui/TickField.vue'
import { labelOf } from './label'
import { noteOf } from './notes'

/** The chosen panel: what its label says, and copies of it. */
const emit = defineEmits<{ list: [] }>()
const state = useOpenJob()
const draft = useDraftBench()
const { panel, all, chosen } = draft
const HANDS = [
  { value: 'single', title: 'single' },
  { value: 'pair', title: 'pair, mirrored' },
  { value: 'left', title: 'left hand' },
  { value: 'right', title: 'right hand' },
]
const sure = ref(false)
const times = ref('')
const refused = computed(() => panel.value?.companions.filter((c) => c.refusal) ?? [])
watch(
  () => panel.value?.id,
  () => (sure.value = false),
)
const keep = (what: Partial<Schemas['SetPanel']>) => state.keep({ ...labelOf(panel.value!), ...what })
const set = (what: Partial<Schemas['SetPanel']>) => state.do({ ...labelOf(panel.value!), ...what })
async function copy(how: { mirror?: boolean; times?: number }) {
  if (await state.do({ kind: 'copy_panel', panel: panel.value!.id, ...how })) draft.showLast()
}
async function remove() {
  if (sure.value) await state.do({ kind: 'remove_panel', panel: panel.value!.id })
  sure.value = !sure.value
}
</script>

<template>
  <div v-if="panel" class="part">
    <h2 class="visually-hidden">{{ panel.name }}</h2>
    <EntryField words label="Name on the label" :value="panel.name" :keep="(name) => keep({ name })" class="name" />
    <p class="soft">{{ panel.width }} × {{ panel.height }} on the seam line</p>
    <p v-if="panel.refusal" class="said stop" role="alert">{{ panel.refusal }}</p>
    <p v-for="c in refused" :key="c.name" class="said stop">{{ c.refusal }}</p>
    <SaidNotes :notes="(panel.draft?.findings ?? []).map(noteOf)" />
    <ChosenField
      title="hand"
      :choices="HANDS"
      :model-value="panel.hand"
      @update:model-value="(hand) => set({ hand: hand as Schemas['SetPanel']['hand'] })"
    />
    <TickField :model-value="panel.on_fold" title="half of it, cut on the fold" @update:model-value="(fold) => set({ on_fold: !!fold })" />
    <div class="pairs">
      <label
        >grain at<EntryField label="Grain at, °" unit="°" :value="String(panel.grain_deg)" :keep="(deg) => keep({ grain_deg: deg })"
      /></label>
      <label
        >which way up<EntryField
          words
          label="Which way up"
          hint="TOP to the wheel"
          :value="panel.way_up"
          :keep="(way_up) => keep({ way_up })"
      /></label>
    </div>
    <details v-if="panel.draft?.workings.length" class="whole">
      <summary>Show the sum</summary>
      <p v-for="w in panel.draft.workings" :key="w" class="small">{{ w }}</p>
    </details>
    <div class="row">
      <v-btn size="small" height="44" @click="chosen = all">All edges</v-btn>
      <v-btn size="small" height="44" @click="emit('list')">In a table</v-btn>
      <v-btn size="small" height="44" @click="copy({})">Copy</v-btn>
      <v-btn size="small" height="44" @click="copy({ mirror: true })">Mirror image</v-btn>
      <v-btn size="small" height="44" color="error" @click="remove">{{ sure ? 'Yes, remove it' : 'Remove' }}</v-btn>
    </div>
    <form class="row" @submit.prevent="copy({ times: Number(times.replace(',', '.')) || 1 })">
      <input v-model="times" class="typed" aria-label="Times as large" placeholder="1.25" inputmode="decimal" />
      <v-btn size="small" height="44" type="submit" :disabled="!times">times as large</v-btn>
    </form>
  </div>
</template>

<style scoped>
.part {
  gap: 6px;
}
.name :deep(.typed.words) {
  width: 260px;
  font-size: 19px;
  font-weight: 700;
  background: none;
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'
import FamilyPicture from '../../bench/FamilyPicture.vue'
import { useDraftBench, useOpenJob } from '../../state/keys'
import AskedForm from '../../ui/AskedForm.vue'

/** What lies on the table, while nothing of it is chosen: the panels, the covers they are of, and more of both. */
const emit = defineEmits<{ measures: [cover: string]; read: [] }>()
const state = useOpenJob()
const { job } = state
const draft = useDraftBench()
const { panels, cover } = draft
const name = ref('panel')
/** So many that they stand in two columns, to be seen at once. */
const many = computed(() => panels.value.length > 6)
/** Captured pieces that no panel is called after. */
const unmade = computed(() => (job.value?.pieces ?? []).filter((piece) => !panels.value.some((p) => p.name === piece.name)))
const makePanel = () => state.keep({ kind: 'make_panel', name: name.value.trim() })
async function makePanels() {
  if (await state.do({ kind: 'make_panels' })) draft.showLast()
}
</script>

<template>
  <div v-if="job" class="part">
    <h2>On the table</h2>
    <ul aria-label="Panels" :class="{ many }">
      <li v-for="p in panels" :key="p.id">
        <button class="words" :title="many ? p.instruction : undefined" @click="draft.choosePanel(p.id)">
          <b>{{ p.name }}</b> <span class="soft small">{{ many ? '' : `${p.instruction} · ` }}{{ p.width }} × {{ p.height }}</span>
        </button>
      </li>
    </ul>
    <template v-if="job.covers.length">
      <h3>Drafted from measures</h3>
      <div v-for="c in job.covers" :key="c.id" class="row">
        <FamilyPicture :family="c.family" plain class="small-picture" />
        <button class="words" @click="cover = c.id">{{ c.title }}: sums, what to buy</button>
        <p v-if="c.refusal" class="said stop">{{ c.refusal }}</p>
      </div>
    </template>
    <div class="row">
      <v-btn v-if="unmade.length" @click="makePanels"
        >Make panels of {{ unmade.length === 1 ? `“${unmade[0]?.name}”` : `${unmade.length} more pieces` }}</v-btn
      >
      <v-btn @click="emit('measures', '')">{{ job.covers.length ? 'Another cover from measures' : 'A cover from measures' }}</v-btn>
      <v-btn @click="emit('read')">Read a file</v-btn>
      <v-btn :to="{ name: 'house', query: { job: job.id } }">House rules and cloths</v-btn>
    </div>
    <AskedForm v-if="job.shape" class="row" :values="{ name }" :send="makePanel" @taken="draft.showLast">
      <input v-model="name" class="typed words" aria-label="Another panel of the outline" maxlength="80" />
      <v-btn type="submit" :disabled="!name.trim()">Make a panel</v-btn>
    </AskedForm>
  </div>
</template>

<style scoped>
ul {
  max-height: 300px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
.many {
  display: grid;
  grid-template-columns: 1fr 1fr;
  column-gap: 12px;
}
.many .soft {
  display: block;
  white-space: nowrap;
}
li {
  border-bottom: 1px solid var(--hairline);
}
.words {
  width: 100%;
}
input.words {
  width: 150px;
}
.small-picture {
  width: 46px;
}
.row > .words {
  flex: 1;
}
</style>

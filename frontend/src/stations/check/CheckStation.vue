<script setup lang="ts">
import HelpNote from '../../ui/HelpNote.vue'
import { computed, reactive, shallowRef, watch } from 'vue'
import { ask, type Schemas } from '../../api/client'
import AssembledCover from './AssembledCover.vue'
import JoinMap from './JoinMap.vue'
import PinnedSlip from '../../bench/PinnedSlip.vue'
import PlacePicture from './PlacePicture.vue'
import WalkPicture from '../../bench/WalkPicture.vue'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import '../../bench/station.css'
import InlineField from '../../ui/InlineField.vue'

/** All that is found, the worst first; each is mended, here where there is a change that does it, or lived with for a reason. */
type Checked = Schemas['CheckedView']
const state = useOpenJob()
const { job } = state
const reasons = reactive<Record<string, string>>({})
const all = computed(() => job.value?.checks ?? [])
const open = computed(() => all.value.filter((c) => c.severity !== 'fine' && !c.reason))
const lived = computed(() => all.value.filter((c) => c.reason))
const fine = computed(() => all.value.filter((c) => c.severity === 'fine' && !c.reason))
const TITLES = { stop: 'Stop', look: 'Look', fine: 'Know' } as const
const where = (c: Checked) => [c.place.panel, c.place.edge].filter(Boolean).join(', ')
const panelOf = (c: Checked) => job.value?.panels.flatMap((p) => [p, ...p.companions]).find((p) => p.name === c.place.panel)
const walkOf = (c: Checked) => (c.join && !c.place.panel ? job.value?.joins.find((j) => j.id === c.join)?.walk : null)
const mends = shallowRef<Schemas['MendView'][]>([])
const mendsOf = (c: Checked) => mends.value.filter((m) => m.finding === c.id)
watch(() => [job.value?.revision, open.value.length > 0] as const, look, { immediate: true })
/** The mends are tried on the job by the server, which takes a moment. */
async function look() {
  const shown = job.value
  mends.value = []
  if (!shown || !open.value.length) return
  try {
    const tried = await ask('get', '/api/jobs/{job_id}/mends', { params: { path: { job_id: shown.id } } })
    if (job.value?.revision === shown.revision) mends.value = tried
  } catch (e) {
    sayWrong(e)
  }
}
/** So many joins are shown at once, also those that need nothing. */
const FEW = 5
const walked = computed(() => {
  const joins = job.value?.joins ?? []
  const isWrong = (j: (typeof joins)[number]) => j.verdict === 'mismatch' || !j.verdict
  return { wrong: joins.filter(isWrong), right: joins.filter((j) => !isWrong(j)) }
})
const accept = (c: Checked, reason: string) => state.do({ kind: 'accept_finding', finding: c.id, reason })
</script>

<template>
  <div v-if="job" class="station">
    <section class="paper-sheet" aria-label="Findings">
      <p v-if="!job.panels.length" class="soft">There is nothing to check before there are panels.</p>
      <p v-else-if="!open.length" class="said ready"><b>Ready to cut.</b> Nothing is open.</p>
      <h2 v-if="open.length" class="visually-hidden">To settle</h2>
      <article v-for="(c, k) in open" :key="`${k} ${c.id}`" class="said finding" :class="c.severity">
        <h3>
          {{ TITLES[c.severity] }}<span v-if="where(c)" class="soft"> · {{ where(c) }}</span>
        </h3>
        <div class="row seen">
          <p>{{ c.sentence }}</p>
          <PlacePicture v-if="panelOf(c)" :panel="panelOf(c)!" :place="c.place" />
        </div>
        <WalkPicture v-if="walkOf(c)" :walk="walkOf(c)!" :wrong="c.severity === 'stop'" />
        <div v-for="m in mendsOf(c)" :key="m.words" class="row mend">
          <v-btn color="primary" variant="outlined" @click="state.do(m.change)">{{ m.words }}</v-btn>
          <span class="soft small">{{ m.then.length ? `Then: ${m.then.join(' ')}` : 'Nothing new is found then.' }}</span>
        </div>
        <form class="row" @submit.prevent="accept(c, reasons[c.id] ?? '')">
          <v-btn :to="{ name: 'job', params: { id: job.id, station: 'draft' } }">Go and mend it</v-btn>
          <InlineField
            words
            v-model="reasons[c.id]"
            class="reason"
            maxlength="200"
            :aria-label="`Why you live with: ${c.sentence}`"
            placeholder="or live with it, because …"
          /><v-btn type="submit" :disabled="!reasons[c.id]?.trim()">Live with it</v-btn>
        </form>
      </article>
      <template v-if="job.covers.length || job.joins.length">
        <h2>Put together</h2>
        <AssembledCover v-if="job.covers.length" />
        <JoinMap v-else />
      </template>
      <article v-for="(c, k) in fine" :key="k" class="said finding fine">
        <p>
          <b>{{ TITLES.fine }}:</b> {{ c.sentence }}
        </p>
      </article>
      <template v-if="lived.length">
        <h2>Lived with</h2>
        <article v-for="c in lived" :key="c.id" class="finding lived">
          <p>{{ c.sentence }}</p>
          <div class="row between">
            <p><b>Because</b> {{ c.reason }}</p>
            <v-btn size="small" height="40" @click="accept(c, '')">Open it again</v-btn>
          </div>
        </article>
      </template>
    </section>
    <PinnedSlip>
      <div class="row between">
        <h2>{{ open.length ? `${open.length} to settle` : 'Checked' }}</h2>
        <HelpNote about="check" />
      </div>
      <p>
        {{ job.cut_pieces }} {{ job.cut_pieces === 1 ? 'piece' : 'pieces' }} to cut from {{ job.panels.length }}
        {{ job.panels.length === 1 ? 'panel' : 'panels' }}.
      </p>
      <h3>Joins, walked</h3>
      <p v-if="!job.joins.length" class="soft">Nothing is joined, so nothing is walked. Joins are made at Draft.</p>
      <p v-for="j in walked.wrong" :key="j.id" class="walk stop">{{ j.words }}</p>
      <details v-if="walked.right.length" :class="{ whole: job.joins.length > FEW }" :open="job.joins.length <= FEW">
        <summary>{{ walked.right.length === 1 ? 'One join goes' : `${walked.right.length} joins go` }} together</summary>
        <p v-for="j in walked.right" :key="j.id" class="walk">{{ j.words }}</p>
      </details>
    </PinnedSlip>
  </div>
</template>

<style scoped>
.finding {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.said.fine {
  background: var(--table);
}
.seen {
  flex-wrap: nowrap;
  justify-content: space-between;
  align-items: start;
}
.seen svg {
  flex: none;
}
.mend {
  flex-wrap: nowrap;
  gap: 12px;
}
/* what a mend does may take a line and a half */
.mend .v-btn {
  height: auto;
  min-height: 44px;
  padding-block: 6px;
}
.mend :deep(.v-btn__content) {
  white-space: normal;
}
@media (max-width: 600px) {
  .mend {
    flex-wrap: wrap;
  }
}
.lived {
  padding: 8px 12px;
  border-left: 3px solid var(--hairline);
}
.reason {
  flex: 1;
  min-width: min(200px, 100%);
}
.walk {
  padding: 4px 8px;
  border-radius: 6px;
}
.walk.stop {
  background: var(--madder-pale);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import PinnedSlip from '../../bench/PinnedSlip.vue'
import type { HelpKey } from '../../logic/help'
import { bareEdges } from '../../logic/steps'
import { TASKS } from '../../logic/tasks'
import { useDraftBench } from '../../state/keys'
import type { LaidOut } from '../../state/laid'
import HelpNote from '../../ui/HelpNote.vue'
import CornerSlip from './CornerSlip.vue'
import CoverSlip from './CoverSlip.vue'
import EaseSlip from './EaseSlip.vue'
import EdgeSlip from './EdgeSlip.vue'
import FeatureSlip from './FeatureSlip.vue'
import JoinSlip from './JoinSlip.vue'
import MoveSlip from './MoveSlip.vue'
import PadSlip from './PadSlip.vue'
import PanelSlip from './PanelSlip.vue'
import TableSlip from './TableSlip.vue'
import type { FeatureWork } from './useFeature'

/** The slip of what is chosen, or of what is done: one subject at a time. */
defineProps<{ work: FeatureWork; laid: LaidOut }>()
const emit = defineEmits<{ filled: [pad: Schemas['PadView'] | null]; list: []; measures: [cover: string]; read: [] }>()
const draft = useDraftBench()
const { subject, panel, panels, task, at, chosen, corner } = draft
const bare = computed(() => bareEdges(panels.value))
/** From the chosen thing back to what it is of. */
const up = computed(() => {
  if (subject.value === 'edges' || subject.value === 'corner') return panel.value?.name
  return subject.value === 'table' || subject.value === 'cover' ? '' : task.value === 'allow' ? 'the table' : 'allowances'
})
const about = computed<HelpKey>(() => (subject.value === 'cover' ? 'measures' : task.value))
const PANELS_OWN = ['ease', 'take_in', 'open', 'mark', 'layer', 'fill']
</script>

<template>
  <PinnedSlip sheet>
    <template v-if="panels.length">
      <div class="row between slip-head">
        <v-btn v-if="up" variant="text" height="44" @click="draft.leave()">← {{ up }}</v-btn
        ><span v-else />
        <HelpNote :about="about" />
      </div>
      <template v-if="!panel && PANELS_OWN.includes(subject)">
        <h2>{{ TASKS[task].does }}</h2>
        <p class="soft">Point at a panel, or choose it here.</p>
        <div class="row">
          <v-btn v-for="p in panels" :key="p.id" @click="draft.choosePanel(p.id)">{{ p.name }}</v-btn>
        </div>
      </template>
      <TableSlip v-else-if="subject === 'table'" @measures="emit('measures', $event)" @read="emit('read')" />
      <CoverSlip v-else-if="subject === 'cover'" @measures="emit('measures', $event)" />
      <PanelSlip v-else-if="subject === 'panel'" :key="at" @list="emit('list')" />
      <EdgeSlip v-else-if="subject === 'edges'" :key="chosen.join()" />
      <CornerSlip v-else-if="subject === 'corner'" :key="corner" />
      <EaseSlip v-else-if="subject === 'ease'" :key="at" />
      <JoinSlip v-else-if="subject === 'join'" />
      <PadSlip v-else-if="subject === 'fill'" :panel="panel!" @filled="emit('filled', $event)" />
      <MoveSlip v-else-if="subject === 'move'" :held="laid.held.value.length" @turn="laid.turn" @flip="laid.flip" />
      <div v-else-if="subject === 'measure'" class="part">
        <h2>Measure</h2>
        <p v-if="laid.measured.value" class="measured">{{ laid.measured.value.text }}</p>
        <p class="soft">Point at two places; corners and middles catch.</p>
      </div>
      <FeatureSlip v-else :work="work" />
    </template>
    <template v-else
      ><h2>No panel yet</h2>
      <p class="soft">A panel is the outline as a seam line; each of its edges then gets its own allowance and finish.</p></template
    >
    <p v-if="bare && task === 'allow'" class="said stop">
      {{ bare === 1 ? '1 edge needs an allowance' : `${bare} edges need an allowance` }}; shown in red.
    </p>
  </PinnedSlip>
</template>

<style scoped>
.measured {
  font-size: 20px;
  font-weight: 700;
}
</style>

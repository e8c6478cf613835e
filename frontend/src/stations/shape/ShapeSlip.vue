<script setup lang="ts">
import { computed, useTemplateRef, watch } from 'vue'
import type { Schemas } from '../../api/client'
import PinnedSlip from '../../bench/PinnedSlip.vue'
import type { HelpKey } from '../../logic/help'
import { SHAPE_TASKS } from '../../logic/tasks'
import { useOpenJob, useShapeBench } from '../../state/keys'
import HelpNote from '../../ui/HelpNote.vue'
import CornerPart from './CornerPart.vue'
import EdgePart from './EdgePart.vue'
import FoldPart from './FoldPart.vue'
import HandPart from './HandPart.vue'
import MeasureIn from './MeasureIn.vue'
import OldCoverSlip from './OldCoverSlip.vue'
import OutlinePart from './OutlinePart.vue'
import PhotoPart from './PhotoPart.vue'
import StepList from './StepList.vue'
import TapeList from './TapeList.vue'

/** The slip of what is chosen on the outline, or of what is done: one subject at a time. */
const props = defineProps<{
  placed: Schemas['PlacedPhoto'] | null
  source: { photo: number; outline: number } | null
  /** Whether the photo is pointed at, which then says what for. */
  pointing: boolean
}>()
const emit = defineEmits<{ photos: [] }>()
const { job } = useOpenJob()
const { table, hand } = useShapeBench()
const { task, edge, corner, shape } = table
/** From what is chosen, or done, back to the outline. */
const up = computed(() => shape.value && !hand.mode.value && (task.value !== 'true_up' || edge.value || corner.value))
/** Nothing was captured yet: what can't be photographed is typed in. */
const untouched = computed(() => !shape.value && !job.value?.photos.length && task.value !== 'photo')
const slip = useTemplateRef('slip')
// what is typed is typed on the slip alone, and why a photo was refused is said there
watch(task, (now) => now === 'enter' && slip.value?.takeUp())
watch(
  () => job.value?.photos.at(-1)?.status === 'refused' && !props.pointing,
  (refused) => refused && slip.value?.takeUp(),
  { flush: 'post', immediate: true },
)
const about = computed<HelpKey>(
  () => hand.mode.value ?? (untouched.value ? 'enter' : !shape.value && task.value === 'true_up' ? 'photo' : task.value),
)
</script>

<template>
  <PinnedSlip ref="slip" sheet :waits="untouched || pointing">
    <div class="row between slip-head">
      <v-btn v-if="up" variant="text" height="44" @click="table.leave()">← the outline</v-btn><span v-else />
      <HelpNote :about="about" />
    </div>
    <HandPart v-if="hand.mode.value" />
    <MeasureIn v-else-if="task === 'enter' || untouched" />
    <PhotoPart v-else-if="!shape || task === 'photo'" @photos="emit('photos')" />
    <TapeList v-else-if="task === 'tape'" />
    <FoldPart v-else-if="task === 'fold'" />
    <OldCoverSlip v-else-if="task === 'old'" />
    <div v-else-if="task === 'steps'" class="part">
      <h2>{{ SHAPE_TASKS.steps.does }}</h2>
      <StepList />
    </div>
    <EdgePart v-else-if="edge" />
    <CornerPart v-else-if="corner" />
    <OutlinePart v-else :key="job?.open_piece" :placed="placed" :source="source" />
  </PinnedSlip>
</template>

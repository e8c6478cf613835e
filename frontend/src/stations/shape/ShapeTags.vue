<script setup lang="ts">
import { computed } from 'vue'
import PlaceTag from '../../bench/PlaceTag.vue'
import { useOpenJob, useShapeBench } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'
import InlineChoice from '../../ui/InlineChoice.vue'
import { EDGE_KINDS, useEdgeKind } from './useEdgeKind'

/** The tag of what is chosen on the outline, hung at its place: what an edge is, how a corner runs, what the tape says. */
const KINDS = Object.entries(EDGE_KINDS).map(([value, title]) => ({ value: value as keyof typeof EDGE_KINDS, title }))
const RUNS = [
  { value: 'sharp', title: 'sharp' },
  { value: 'smooth', title: 'runs on smoothly' },
] as const
type At = { x: number; y: number }
const props = defineProps<{ seen: (p: At) => At; room: { width: number; height: number } }>()
const state = useOpenJob()
const { job } = state
const { work, table } = useShapeBench()
const { shape, chosen, edge, corner, measure, task } = table
const { kind, set } = useEdgeKind()
const taped = computed(() => shape.value?.tape.find((t) => t.id === measure.value) ?? null)
const keepTape = (tape: string) => state.keep({ kind: 'set_measure', measure: measure.value, tape })
const hung = computed(() => {
  const [x, y, w, h] = shape.value?.box ?? [0, 0, 0, 0]
  const place = taped.value?.at ?? edge.value?.middle ?? corner.value?.point
  if (!place) return null
  const [px = 0, py = 0] = place
  // outward, as seen from the outline’s middle
  const way = taped.value?.ends.length ? { x: 0, y: 1 } : { x: px - x - w / 2, y: py - y - h / 2 }
  const long = Math.hypot(way.x, way.y) || 1
  return { at: props.seen({ x: px, y: py }), away: { x: way.x / long, y: -way.y / long }, off: taped.value ? 8 : 30 }
})
</script>

<template>
  <PlaceTag v-if="hung && (taped || task === 'true_up')" v-bind="hung" :room="room" label="What is chosen">
    <template v-if="taped">
      <span>{{ taped.name }} {{ taped.outline }}</span>
      <span class="soft small">tape</span>
      <EntryField :key="measure" label="The tape says" :value="taped.tape ?? ''" :unit="job?.unit" :keep="keepTape" @left="table.leave()" />
    </template>
    <template v-else-if="edge">
      <span>{{ edge.name }} {{ edge.length }} {{ job?.unit }}</span>
      <InlineChoice :choices="KINDS" aria-label="What it is" :model-value="kind ?? ''" @update:model-value="(to) => to && set(to)" />
    </template>
    <template v-else-if="corner && chosen">
      <span>{{ corner.letter }}</span>
      <InlineChoice
        :choices="RUNS"
        aria-label="How it runs"
        :model-value="corner.smooth ? 'smooth' : 'sharp'"
        @update:model-value="work.setSmooth(chosen.ring, chosen.corner!, $event === 'smooth')"
      />
    </template>
  </PlaceTag>
</template>

<style scoped>
select.typed {
  width: auto;
}
</style>

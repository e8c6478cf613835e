<script setup lang="ts">
import { useOpenJob, useShapeBench } from '../../state/keys'
import ToggleButton from '../../ui/ToggleButton.vue'
import EdgePicture from './EdgePicture.vue'
import { EDGE_KINDS, useEdgeKind } from './useEdgeKind'

/** What the chosen edge is to be, and what it is held to. */
const { job } = useOpenJob()
const { table } = useShapeBench()
const { asking, edge } = table
const { kind, set } = useEdgeKind()
const keys = Object.keys(EDGE_KINDS) as (keyof typeof EDGE_KINDS)[]
</script>

<template>
  <div v-if="edge" class="part">
    <div class="row between">
      <h2>Edge {{ edge.name }}</h2>
      <span class="soft small">{{ edge.kind }}{{ edge.radius ? ` r ${edge.radius}` : '' }}</span>
    </div>
    <p>{{ edge.length }} {{ job?.unit }} long; it fits the trace to within {{ edge.strays }}.</p>
    <div class="choices four" role="group" aria-label="What this edge is">
      <button v-for="k in keys" :key="k" :aria-pressed="kind === k" @click="set(k)"><EdgePicture :kind="k" />{{ EDGE_KINDS[k] }}</button>
    </div>
    <div class="row">
      <ToggleButton :on="asking === 'parallel'" @click="table.ask('parallel')">{{
        asking === 'parallel' ? 'Now the other edge' : 'Parallel with …'
      }}</ToggleButton>
      <ToggleButton :on="asking === 'equal'" @click="table.ask('equal')">{{
        asking === 'equal' ? 'Now the other edge' : 'As long as …'
      }}</ToggleButton>
      <ToggleButton :on="asking === 'corner'" @click="table.ask('corner')">{{
        asking === 'corner' ? 'Point at the outline' : 'Add a corner'
      }}</ToggleButton>
    </div>
  </div>
</template>

<style scoped>
.four {
  grid-template-columns: repeat(4, 1fr);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import FamilyPicture from '../../bench/FamilyPicture.vue'
import { useDraftBench, useOpenJob } from '../../state/keys'
import ResultWanted from './ResultWanted.vue'

/** A cover that a family drafted: what to buy, its sums, and what a result would take. */
const emit = defineEmits<{ measures: [cover: string] }>()
const state = useOpenJob()
const { cover } = useDraftBench()
const shown = computed(() => state.job.value?.covers.find((c) => c.id === cover.value) ?? null)
const letGo = () => state.do({ kind: 'let_go_of_cover', cover: cover.value }).then((done) => done && (cover.value = ''))
</script>

<template>
  <section v-if="shown" class="part" :aria-label="shown.title">
    <div class="row">
      <FamilyPicture :family="shown.family" plain class="small-picture" />
      <h2>{{ shown.title }}</h2>
    </div>
    <p v-if="shown.refusal" class="said stop">{{ shown.refusal }}</p>
    <div class="row">
      <v-btn color="primary" variant="flat" @click="emit('measures', shown.id)">Other measures</v-btn>
      <v-btn title="The panels stay and no longer follow the measures" @click="letGo">Let go</v-btn>
      <v-btn @click="cover = ''">Back</v-btn>
    </div>
    <template v-if="shown.notions.length"
      ><h3>To buy</h3>
      <p v-for="(n, k) in shown.notions" :key="k">{{ n.words }}</p></template
    >
    <details open>
      <summary>The sums</summary>
      <p v-for="(line, k) in shown.workings" :key="k" class="sum">{{ line }}</p>
    </details>
    <ResultWanted v-if="shown.results.length" :cover="shown" />
  </section>
</template>

<style scoped>
.small-picture {
  width: 56px;
}
.sum {
  padding: 3px 0;
  border-bottom: 1px solid var(--hairline);
}
</style>

<script setup lang="ts">
import { useOpenJob } from '../../state/keys'
import FamilyPicture from '../../bench/FamilyPicture.vue'
import ResultWanted from './ResultWanted.vue'

/** The covers that families drafted in this job: their sums, and what to buy. */
const emit = defineEmits<{ measures: [cover: string] }>()
const state = useOpenJob()
const { job } = state
const letGo = (cover: string) => state.do({ kind: 'let_go_of_cover', cover })
</script>

<template>
  <div class="part">
    <h2>Covers from measures</h2>
    <p v-if="!job?.covers.length" class="soft">None of these panels was drafted from measures.</p>
    <section v-for="c in job?.covers" :key="c.id" class="cover part" :aria-label="c.title">
      <div class="row">
        <FamilyPicture :family="c.family" plain class="small-picture" />
        <h3>{{ c.title }}</h3>
      </div>
      <p v-if="c.refused" class="said stop">{{ c.refused }}</p>
      <div class="row">
        <v-btn @click="emit('measures', c.id)">Other measures</v-btn
        ><v-btn title="The panels stay and no longer follow the measures" @click="letGo(c.id)">Let go</v-btn>
      </div>
      <template v-if="c.notions.length"
        ><h3>To buy</h3>
        <p v-for="(n, k) in c.notions" :key="k">{{ n.words }}</p></template
      >
      <details open>
        <summary>The sums</summary>
        <p v-for="(line, k) in c.worked" :key="k" class="sum">{{ line }}</p>
      </details>
      <ResultWanted v-if="c.results.length" :cover="c" />
    </section>
    <v-btn @click="emit('measures', '')">Another cover from measures</v-btn>
  </div>
</template>

<style scoped>
.small-picture {
  width: 56px;
}
.sum {
  padding: 3px 0;
  border-bottom: 1px solid var(--hairline);
}
.cover + .cover {
  border-top: 2px solid var(--rail);
  padding-top: 12px;
}
</style>

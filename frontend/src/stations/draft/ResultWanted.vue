<script setup lang="ts">
import { reactive, shallowRef, watch } from 'vue'
import { ask, Refusal, type Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import AskedForm from '../../ui/AskedForm.vue'
import ChosenField from '../../ui/ChosenField.vue'
import TypedField from '../../ui/TypedField.vue'

/** Working backwards: a result that is to be so long, and which measure that takes. */
const props = defineProps<{ cover: Schemas['CoverView'] }>()
const state = useOpenJob()
const { job } = state
const wanted = reactive({ result: props.cover.results[0]?.id ?? '', length: props.cover.results[0]?.length ?? '' })
const offers = shallowRef<Schemas['MeasureView'][] | null>(null)

watch(
  () => wanted.result,
  (id) => {
    wanted.length = props.cover.results.find((r) => r.id === id)?.length ?? ''
    offers.value = null
  },
)
async function look(): Promise<Refusal | null> {
  const shown = job.value
  if (!shown) return null
  try {
    offers.value = await ask('get', '/api/jobs/{job_id}/covers/{cover_id}/measures', {
      params: { path: { job_id: shown.id, cover_id: props.cover.id }, query: { ...wanted } },
    })
  } catch (e) {
    offers.value = null
    if (e instanceof Refusal) return e
    sayWrong(e)
  }
  return null
}
async function take(offer: Schemas['MeasureView']) {
  if (await state.do(offer.change)) offers.value = null
}
</script>

<template>
  <details>
    <summary>Work it backwards</summary>
    <AskedForm class="part" :values="wanted" :send="look">
      <p class="soft small">Say what is to come out; you see which measure that takes.</p>
      <ChosenField v-model="wanted.result" title="what" :choices="cover.results.map((r) => ({ value: r.id, title: r.what }))" />
      <TypedField v-model="wanted.length" title="is to be" :unit="job?.unit" />
      <v-btn type="submit" :disabled="!wanted.length.trim()">What does it take?</v-btn>
      <p v-if="offers && !offers.length" class="said">No single measure brings it there.</p>
      <div v-for="o in offers ?? []" :key="o.words" class="row between offer">
        <span>{{ o.words }}</span><v-btn size="small" height="40" :aria-label="`Take ${o.words}`" @click="take(o)">Take it</v-btn>
      </div>
    </AskedForm>
  </details>
</template>

<style scoped>
.offer {
  flex-wrap: nowrap;
}
</style>

<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Panel } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import type { Field } from '../../ui/fields'
import FormFields from '../../ui/FormFields.vue'

/** Ease and cloth: how the seam line comes out of the object's outline, with the sum. */
const props = defineProps<{ panel: Panel }>()
const state = useOpenJob()
const { job } = state
const FIELDS: readonly Field[] = [
  { key: 'clearance', title: 'clearance all round' },
  { key: 'girth', title: 'ease on the girth' },
  { key: 'width', title: 'ease across' },
  { key: 'height', title: 'ease up' },
  { key: 'percent', title: 'larger by', kind: 'percent' },
  { key: 'over', title: 'lies over a layer of' },
  { key: 'warp_stretched', title: 'stretch used along the grain', kind: 'percent' },
  { key: 'weft_stretched', title: 'stretch used across it', kind: 'percent' },
]
const values = reactive({ percent: '', width: '', height: '', clearance: '', girth: '', over: '', warp_stretched: '', weft_stretched: '' })
watch(
  () => props.panel,
  (p) => Object.assign(values, p.fit),
  { immediate: true },
)
const cloth = computed(() => job.value?.house.cloths?.find((c) => c.name === props.panel.cloth) ?? null)
const sum = computed(() => props.panel.drafted?.fit ?? [])
const keep = () => state.do({ kind: 'set_fit', panel: props.panel.id, ...values })
</script>

<template>
  <div class="part">
    <h2>Ease</h2>
    <p class="soft">From the object’s outline to the seam line, in the order of the sum below. Less than nothing is a stretch fit.</p>
    <FormFields
      :fields="FIELDS"
      :values="values"
      @set="(key, value) => Object.assign(values, { [key]: value })"
      :unit="job?.unit"
      @change="keep"
    />
    <p v-if="cloth && !cloth.prewashed && (cloth.warp_shrinks || cloth.weft_shrinks)" class="said">
      {{ cloth.name }} shrinks by {{ cloth.warp_shrinks || '0' }} % along and {{ cloth.weft_shrinks || '0' }} % across the grain; it is
      drawn larger by that.
    </p>
    <p v-if="cloth?.prewashed" class="said">{{ cloth.name }} is washed before it is cut, so nothing is added for shrinking.</p>
    <template v-if="sum.length">
      <h3>The sum</h3>
      <p v-for="w in sum" :key="w" class="small">{{ w }}</p>
    </template>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { ringPath } from '../../logic/rings'
import { useDraftBench, useOpenJob } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'
import { easePicture } from './easePicture'

/** How the seam line comes out of the object’s outline: each ease at its arrow on a drawing of the panel, and the sum. */
type Ease = Exclude<keyof Schemas['SetFit'], 'kind' | 'panel'>
const MORE: readonly { key: Ease; title: string; percent?: boolean }[] = [
  { key: 'percent', title: 'larger by', percent: true },
  { key: 'over', title: 'lies over a layer of' },
  { key: 'warp_stretched', title: 'stretched along', percent: true },
  { key: 'weft_stretched', title: 'stretched across', percent: true },
]
const state = useOpenJob()
const { job } = state
const { panel } = useDraftBench()
const values = computed<Record<string, string>>(() => panel.value?.fit ?? {})
const cloth = computed(() => job.value?.house.cloths.find((c) => c.name === panel.value?.cloth) ?? null)
const sum = computed(() => panel.value?.draft?.fit ?? [])
const picture = computed(() => (panel.value ? easePicture(panel.value.box) : null))
const paths = computed(() => panel.value?.rings.map(ringPath).join(' ') ?? '')
const keep = (key: Ease) => (typed: string) => state.keep({ kind: 'set_fit', panel: panel.value!.id, [key]: typed })
const takeBrief = () => state.do({ kind: 'set_fit', panel: panel.value!.id, clearance: job.value?.clearance?.text ?? '' })
</script>

<template>
  <div v-if="panel && picture" class="part">
    <h2>Ease of {{ panel.name }}, {{ job?.unit }}</h2>
    <div class="drawing">
      <svg :viewBox="picture.viewBox" role="img" aria-label="The panel within its ease, with an arrow for each">
        <path :d="paths" class="object" />
        <path :d="paths" class="seam" :transform="picture.larger" />
        <path v-for="a in picture.arrows" :key="a" :d="a" class="arrow" />
      </svg>
      <label class="out"
        >all round<EntryField label="clearance all round" :value="values.clearance ?? ''" :keep="keep('clearance')"
      /></label>
      <label class="round">on the girth<EntryField label="ease on the girth" :value="values.girth ?? ''" :keep="keep('girth')" /></label>
      <label class="up">up<EntryField label="ease up" :value="values.height ?? ''" :keep="keep('height')" /></label>
      <label class="across">across<EntryField label="ease across" :value="values.width ?? ''" :keep="keep('width')" /></label>
    </div>
    <div v-if="job?.clearance && !panel.has_ease" class="row between said brief">
      <span>{{ job.clearance.why }}</span><v-btn size="small" height="44" @click="takeBrief">Take it</v-btn>
    </div>
    <div class="pairs">
      <label v-for="f in MORE" :key="f.key"
        >{{ f.title }}<EntryField :label="f.title" :value="values[f.key] ?? ''" :unit="f.percent ? '%' : job?.unit" :keep="keep(f.key)"
      /></label>
    </div>
    <p v-if="cloth?.prewashed" class="small">{{ cloth.name }} is washed before it is cut: nothing is added for shrinking.</p>
    <p v-else-if="cloth && (cloth.warp_shrinks || cloth.weft_shrinks)" class="small">
      {{ cloth.name }} shrinks {{ cloth.warp_shrinks || '0' }} % along and {{ cloth.weft_shrinks || '0' }} % across the grain: it is drawn
      larger.
    </p>
    <details v-if="sum.length" :open="panel.has_ease || !job?.clearance">
      <summary>The sum</summary>
      <p v-for="w in sum" :key="w" class="small">{{ w }}</p>
    </details>
    <p v-else class="soft small">Less than nothing is a stretch fit.</p>
  </div>
</template>

<style scoped>
.drawing {
  position: relative;
  height: 236px;
}
.brief {
  flex-wrap: nowrap;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
path {
  fill: none;
  vector-effect: non-scaling-stroke;
  stroke: var(--ink);
}
.object {
  fill: var(--tape);
  stroke: var(--soft-ink);
  stroke-dasharray: 3 4;
}
.seam {
  stroke-width: 2.6px;
}
.arrow {
  stroke: var(--woad);
  stroke-width: 2px;
}
.drawing label {
  position: absolute;
  display: grid;
  justify-items: start;
  font-size: 13px;
  line-height: 1.2;
}
.drawing :deep(input) {
  width: 62px;
}
.out {
  left: 0;
  top: 0;
}
.round {
  right: 0;
  top: 0;
}
.up {
  left: 0;
  bottom: 58px;
}
.across {
  left: 126px;
  bottom: 0;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import ClothPicture from '../../bench/ClothPicture.vue'
import { CORNERS } from '../../logic/finishes'
import { useDraftBench, useOpenJob } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'
import SaidNotes from '../../ui/SaidNotes.vue'
import { labelOf } from './label'
import { noteOf } from './notes'
import { useCorner } from './useCorner'

/** How the cloth is cut at a corner, so that it folds into place. */
const state = useOpenJob()
const { panel } = useDraftBench()
const { edge, set } = useCorner()
const findings = computed(() => (panel.value?.draft?.findings ?? []).filter((f) => f.place?.edge === edge.value?.name))
const title = (key: string | undefined) => CORNERS.find((c) => c.key === key)?.title
const keepLimit = (limit: string) => (panel.value ? state.keep({ ...labelOf(panel.value), mitre_limit: limit }) : Promise.resolve(null))
</script>

<template>
  <div v-if="edge && panel" class="part">
    <h2>Corner at the end of {{ edge.own_name }}</h2>
    <p v-if="edge.corner_set === 'by_rule'" class="soft">{{ title(edge.corner) }}, by the rule for both finishes.</p>
    <div class="choices" role="group" aria-label="How the corner is cut">
      <button v-for="c in CORNERS" :key="c.key" :aria-pressed="edge.corner_set === c.key" @click="set(c.key)">
        <ClothPicture :kind="c.key" />{{ c.title }}
      </button>
    </div>
    <label class="row between"
      >mitres on this panel reach at most<EntryField
        label="Mitres reach at most, × the allowance"
        unit="×"
        :value="String(panel.mitre_limit)"
        :keep="keepLimit"
    /></label>
    <p class="soft small">Times the allowance; a sharper one is cut off there.</p>
    <SaidNotes :notes="findings.map(noteOf)" />
  </div>
</template>

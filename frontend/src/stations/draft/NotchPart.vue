<script setup lang="ts">
import { computed, ref } from 'vue'
import { ownEdges } from '../../logic/steps'
import { useDraftBench, useOpenJob } from '../../state/keys'
import AskedForm from '../../ui/AskedForm.vue'
import InlineField from '../../ui/InlineField.vue'

/** Notches: at a place of the chosen edge, or all round at once. */
const state = useOpenJob()
const { job } = state
const { panel, chosen, edges } = useDraftBench()
/** So many notches are shown at once. */
const FEW = 2
const along = ref('')
const double = ref(false)
const edge = computed(() => {
  const id = chosen.value[0] ?? ''
  return chosen.value.length === 1 && ownEdges(panel.value?.rings.slice(0, 1) ?? []).includes(id) ? id : ''
})
const notches = computed(() =>
  (panel.value?.draft?.notches ?? [])
    .map((n, k) => ({ ...n, at: panel.value?.notch_texts[k] }))
    .filter((n) => edge.value && panel.value?.rings[0]?.[n.edge]?.of === edge.value),
)
const add = () =>
  state.keep({
    kind: 'set_feature',
    panel: panel.value!.id,
    feature: { kind: 'notch', edge: edge.value, along: along.value, double: double.value },
  })
const remove = (notch: string) => state.do({ kind: 'remove_notch', panel: panel.value!.id, notch })
const divide = (parts: number) => state.do({ kind: 'divide_by_notches', panel: panel.value!.id, parts })
</script>

<template>
  <div class="part">
    <h3>Notches{{ edge ? ` on ${edges[0]?.own_name}` : '' }}</h3>
    <template v-if="edge">
      <details v-if="notches.length" :open="notches.length <= FEW">
        <summary>{{ notches.length === 1 ? 'One notch' : `${notches.length} notches` }}</summary>
        <p v-for="n in notches" :key="n.of" class="row between">
          <span>{{ n.double ? 'double' : 'single' }} at {{ n.at }} {{ job?.unit }}</span
          ><v-btn size="small" height="44" @click="remove(n.of ?? '')">Remove</v-btn>
        </p>
      </details>
      <AskedForm class="row" :values="{ along }" :send="add" @taken="along = ''">
        <InlineField v-model="along" aria-label="At, from the start of the edge" placeholder="at" />
        <v-btn type="submit" :disabled="!along" @click="double = false">Notch</v-btn
        ><v-btn type="submit" :disabled="!along" @click="double = true">Double</v-btn>
      </AskedForm>
    </template>
    <p v-else class="soft small">Point at an edge to notch it at a place, or all round:</p>
    <div class="row" role="group" aria-label="Notches all round">
      <v-btn @click="divide(4)">Quarters</v-btn><v-btn @click="divide(8)">Eighths</v-btn
      ><v-btn @click="divide(0)">Each edge’s middle</v-btn>
    </div>
  </div>
</template>

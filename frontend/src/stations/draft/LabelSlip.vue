<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import type { Panel, Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import TickField from '../../ui/TickField.vue'

const props = defineProps<{ panel: Panel }>()
const emit = defineEmits<{ removed: [] }>()
const state = useOpenJob()
const sure = ref(false)
const HANDS = [
  { value: 'single', title: 'single' },
  { value: 'pair', title: 'pair (with its mirror image)' },
  { value: 'left', title: 'left hand' },
  { value: 'right', title: 'right hand' },
]
const label = reactive({
  name: '',
  cloth: '',
  count: '1',
  hand: 'single' as Schemas['SetPanel']['hand'],
  grain_deg: '90',
  way_up: '',
  on_fold: false,
  mitre_limit: '3',
})
const times = ref('')

const refused = computed(() => props.panel.companions.filter((c) => c.refused))
watch(
  () => props.panel,
  (p) => {
    Object.assign(label, {
      name: p.name,
      cloth: p.cloth,
      count: String(p.count),
      hand: p.hand,
      grain_deg: String(p.grain_deg),
      way_up: p.way_up,
      on_fold: p.on_fold,
      mitre_limit: String(p.mitre_limit),
    })
    sure.value = false
  },
  { immediate: true },
)
function keep() {
  const numbers = { count: Number(label.count), grain_deg: Number(label.grain_deg), mitre_limit: Number(label.mitre_limit) }
  return state.do({ kind: 'set_panel', panel: props.panel.id, ...label, ...numbers })
}
const divide = (n: number) => state.do({ kind: 'divide_by_notches', panel: props.panel.id, parts: n })
const copyAt = () => state.do({ kind: 'copy_panel', panel: props.panel.id, times: Number(times.value.replace(',', '.')) || 1 })
async function remove() {
  if (await state.do({ kind: 'remove_panel', panel: props.panel.id })) emit('removed')
}
</script>

<template>
  <div class="label-slip">
    <h2>{{ panel.name }}</h2>
    <p class="soft">{{ panel.instruction }} · {{ panel.width }} × {{ panel.height }} on the seam line</p>
    <p v-if="panel.refused" class="said stop" role="alert">{{ panel.refused }}</p>
    <p v-for="c in refused" :key="c.name" class="said stop">{{ c.refused }}</p>
    <p v-for="f in panel.drafted?.findings" :key="f.id" class="said" :class="f.severity">{{ f.sentence }}</p>
    <v-text-field v-model="label.name" label="Name on the label" maxlength="80" density="compact" @change="keep" />
    <v-combobox
      v-model="label.cloth"
      :items="state.job.value?.house.cloths?.map((c) => c.name) ?? []"
      label="Cloth"
      maxlength="40"
      density="compact"
      @update:model-value="keep"
    />
    <div class="two">
      <v-text-field v-model="label.count" label="How many" type="number" min="1" max="500" density="compact" @change="keep" />
      <v-text-field v-model="label.grain_deg" label="Grain at, °" type="number" density="compact" @change="keep" />
    </div>
    <v-select v-model="label.hand" :items="HANDS" label="Hand" density="compact" @update:model-value="keep" />
    <TickField v-model="label.on_fold" title="half of it, cut on the fold" @update:model-value="keep" />
    <v-text-field
      v-model="label.way_up"
      label="Which way up"
      placeholder="TOP to the wheel"
      maxlength="60"
      density="compact"
      @change="keep"
    />
    <details>
      <summary>Show the sum</summary>
      <p v-for="w in panel.drafted?.worked" :key="w" class="small">{{ w }}</p>
    </details>
    <details>
      <summary>Notches, corners, a copy of another size</summary>
      <div class="part">
        <div class="row">
          <v-btn @click="divide(4)">Quarters</v-btn><v-btn @click="divide(8)">Eighths</v-btn
          ><v-btn @click="divide(0)">In each edge’s middle</v-btn>
        </div>
        <v-text-field
          v-model="label.mitre_limit"
          label="Mitres reach at most, × the allowance"
          type="number"
          min="1"
          max="20"
          density="compact"
          @change="keep"
        />
        <form class="row" @submit.prevent="copyAt">
          <v-text-field v-model="times" label="Times as large" inputmode="decimal" density="compact" /><v-btn
            type="submit"
            :disabled="!times"
            >Copy</v-btn
          >
        </form>
      </div>
    </details>
    <v-btn color="error" @click="sure ? remove() : (sure = true)">{{ sure ? 'Yes, remove it' : 'Remove this panel' }}</v-btn>
  </div>
</template>

<style scoped>
.label-slip {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>

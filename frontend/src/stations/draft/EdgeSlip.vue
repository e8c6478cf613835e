<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Panel, Schemas } from '../../api/client'
import { CORNERS, FINISHES, MORE_FINISHES } from '../../logic/finishes'
import { ownEdges } from '../../logic/steps'
import { useOpenJob } from '../../state/keys'
import FoldPicture from '../../bench/FoldPicture.vue'

const props = defineProps<{ panel: Panel; chosen: readonly string[] }>()
const state = useOpenJob()
const { job } = state
const edges = computed(() =>
  props.chosen.flatMap((c) => {
    const parts = props.panel.rings.flat().filter((e) => e.of === c)
    return parts.find((e) => e.name === e.own_name) ?? parts[0] ?? []
  }),
)
const first = computed(() => edges.value[0] ?? null)
const allowance = ref('')
const name = ref('')
const along = ref('')
const under = ref('')
const carries = ref('')
const carried = ref<'cord' | 'elastic'>('cord')
const field = ref<HTMLInputElement | null>(null)
const same = <K extends 'allowance' | 'finish' | 'corner_set' | 'turn_under' | 'cord' | 'elastic'>(key: K) =>
  edges.value.every((e) => e[key] === first.value?.[key]) ? (first.value?.[key] ?? '') : ''
const alone = computed(() => props.chosen.length === 1 && ownEdges(props.panel.rings.slice(0, 1)).includes(props.chosen[0]!))
const notches = computed(() => {
  const drafted = props.panel.drafted
  if (!drafted || !alone.value) return []
  return drafted.notches.map((n, k) => ({ ...n, k })).filter((n) => props.panel.rings[0]?.[n.edge]?.of === props.chosen[0])
})
const findings = computed(() => (props.panel.drafted?.findings ?? []).filter((f) => edges.value.some((e) => e.name === f.place?.edge)))
/** What stands on the chosen edge, or at the corner at its end. */
const features = computed(() => (alone.value ? props.panel.features.filter((f) => f.edge === props.chosen[0]) : []))
const rare = computed(() => MORE_FINISHES.some((f) => f.key === same('finish')))

watch(
  () => [props.chosen, job.value?.revision],
  () => {
    allowance.value = same('allowance')
    name.value = first.value?.own_name ?? ''
    under.value = same('turn_under')
    carried.value = first.value?.elastic ? 'elastic' : 'cord'
    carries.value = first.value?.elastic || first.value?.cord || ''
  },
  { immediate: true },
)

async function set(what: Omit<Schemas['SetEdges'], 'edges' | 'kind'>) {
  const kept = await state.do({ kind: 'set_edges', edges: [...props.chosen], ...what })
  if (!kept && allowance.value === what.allowance) allowance.value = same('allowance')
}
function setAllowance() {
  if (allowance.value.trim() && allowance.value !== same('allowance')) set({ allowance: allowance.value })
}
const setName = () => name.value.trim() && name.value !== first.value?.own_name && set({ name: name.value })
const setCarried = () =>
  set(carried.value === 'cord' ? { cord: carries.value, elastic: '', by_rule: true } : { elastic: carries.value, cord: '', by_rule: true })
const addNotch = (text: string, double: boolean) =>
  state.do({ kind: 'set_feature', panel: props.panel.id, feature: { kind: 'notch', edge: props.chosen[0]!, along: text, double } })
const removeNotch = (notch: string) => state.do({ kind: 'remove_notch', panel: props.panel.id, notch })
const split = () => state.do({ kind: 'split_edge', edge: props.chosen[0]!, along: along.value })
const merge = () => state.do({ kind: 'merge_edges', edge: props.chosen[0]! })

/** Begin typing an allowance with this key. */
function type(key: string) {
  allowance.value = key
  field.value?.focus()
}
defineExpose({ type })
</script>

<template>
  <div v-if="first" class="edge-slip">
    <div class="line">
      <input v-if="chosen.length === 1" v-model="name" class="name" aria-label="Name of the edge" maxlength="40" @change="setName" />
      <h2 v-else>{{ chosen.length }} edges</h2>
      <span class="soft small">{{
        chosen.length === 1 ? `${first.kind}${first.radius ? ` r ${first.radius}` : ''}` : edges.map((e) => e.name).join(', ')
      }}</span>
    </div>
    <p v-if="chosen.length === 1" class="soft">{{ first.length }} {{ job?.unit }} long on the seam line</p>
    <label class="soft" for="allowance">Allowance</label>
    <div class="line start">
      <input
        id="allowance"
        ref="field"
        v-model="allowance"
        class="figure"
        inputmode="decimal"
        :placeholder="edges.length > 1 ? 'differ' : '0'"
        autocomplete="off"
        @change="setAllowance"
        @focus="($event.target as HTMLInputElement).value === same('allowance') && ($event.target as HTMLInputElement).select()"
      /><b>{{ job?.unit }}</b>
    </div>
    <p class="line small">
      <span class="soft">{{ first.by_rule ? first.rule : `typed; by rule it would be ${first.rule}` }}</span><v-btn
        v-if="!first.by_rule"
        size="small"
        height="40"
        @click="set({ by_rule: true })"
        >Back to the rule</v-btn
      >
    </p>
    <p class="soft">How the edge is finished</p>
    <div class="choices" role="group" aria-label="How the edge is finished">
      <button v-for="f in FINISHES" :key="f.key" :aria-pressed="same('finish') === f.key" @click="set({ finish: f.key })">
        <FoldPicture :kind="f.key" />{{ f.title }}
      </button>
    </div>
    <details :open="rare">
      <summary>More finishes</summary>
      <div class="choices" role="group" aria-label="More finishes">
        <button v-for="f in MORE_FINISHES" :key="f.key" :aria-pressed="same('finish') === f.key" @click="set({ finish: f.key })">
          <FoldPicture :kind="f.key" />{{ f.title }}
        </button>
      </div>
    </details>
    <div v-if="same('finish') === 'casing'" class="line start">
      <select v-model="carried" aria-label="What the casing carries" class="typed short">
        <option value="cord">cord ø</option>
        <option value="elastic">elastic</option>
      </select>
      <input
        v-model="carries"
        class="typed short"
        :aria-label="carried === 'cord' ? 'Diameter of the cord' : 'Width of the elastic'"
        inputmode="decimal"
        @change="setCarried"
      /><span>{{ job?.unit }}</span>
    </div>
    <div v-if="same('finish') === 'casing' || same('finish') === 'double_hem'" class="line start">
      <span class="soft">turned under</span
      ><input
        v-model="under"
        class="typed short"
        aria-label="Turned under"
        inputmode="decimal"
        @change="set({ turn_under: under })"
      /><span>{{ job?.unit }}</span>
    </div>
    <p class="soft">
      Corner at its end{{
        same('corner_set') === 'by_rule' && chosen.length === 1 ? `: ${CORNERS.find((c) => c.key === first!.corner)?.title}, by rule` : ''
      }}
    </p>
    <div class="choices" role="group" aria-label="Corner at its end">
      <button v-for="c in CORNERS" :key="c.key" :aria-pressed="same('corner_set') === c.key" @click="set({ corner: c.key })">
        <FoldPicture :kind="c.key" />{{ c.title }}
      </button>
    </div>
    <p v-for="f in features" :key="f.id" class="soft">{{ f.words }}</p>
    <p v-for="f in findings" :key="f.id" class="said" :class="f.severity">{{ f.sentence }}</p>
    <template v-if="chosen.length === 1">
      <p class="soft">Measured from its start: notches, or a place to split it</p>
      <p v-for="n in notches" :key="n.of" class="line">
        <span>{{ n.double ? 'double' : 'single' }} at {{ panel.notch_texts[n.k] }} {{ job?.unit }}</span
        ><v-btn size="small" height="40" @click="removeNotch(n.of ?? '')">Remove</v-btn>
      </p>
      <form class="line wrap" @submit.prevent="alone && addNotch(along, false)">
        <input v-model="along" class="typed short" aria-label="At, from the start of the edge" placeholder="at" inputmode="decimal" />
        <template v-if="alone"
          ><v-btn type="submit" :disabled="!along">Notch</v-btn
          ><v-btn :disabled="!along" @click="addNotch(along, true)">Double</v-btn></template
        >
        <v-btn :disabled="!along" @click="split">Split here</v-btn>
        <v-btn @click="merge">Merge with the next</v-btn>
      </form>
    </template>
  </div>
</template>

<style scoped>
.edge-slip {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
}
.line.start {
  justify-content: flex-start;
}
.line.wrap {
  flex-wrap: wrap;
  justify-content: flex-start;
}
.name {
  font-size: 19px;
  font-weight: 700;
  width: 60%;
  min-height: 40px;
}
.name,
.figure {
  font-family: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1.5px solid var(--hairline);
}
.figure {
  width: 190px;
  border-bottom: 2.5px solid var(--ink);
}
.short {
  width: 88px;
  min-height: 44px;
}
.choices {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
.choices button {
  display: grid;
  justify-items: center;
  gap: 2px;
  min-height: 60px;
  padding: 8px 2px 6px;
  font: inherit;
  font-size: 14px;
  line-height: 1.15;
  color: inherit;
  background: var(--table);
  border: 1px solid var(--hairline);
  border-radius: 8px;
  cursor: pointer;
}
.choices button[aria-pressed='true'] {
  background: var(--woad-pale);
  border: 2.5px solid var(--woad);
  font-weight: 700;
}
.choices :deep(svg) {
  max-width: 100%;
}
</style>

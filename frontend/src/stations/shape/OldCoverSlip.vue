<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useOpenJob, useShapeBench } from '../../state/keys'
import AskedForm from '../../ui/AskedForm.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import InlineChoice from '../../ui/InlineChoice.vue'
import InlineField from '../../ui/InlineField.vue'

/** From an old piece, or a line that stands off, to the seam line. */
const { job } = useOpenJob()
const { work, table } = useShapeBench()
const edges = computed(() => table.shape.value?.rings[0]?.edges ?? [])
const WAS = { unpicked: 'unpicked', whole: 'whole', 'cut away': 'cut away' } as const
const SIDES = [
  { value: 'outside', title: 'outside' },
  { value: 'inside', title: 'inside' },
] as const
const rest = ref('')
const own = reactive<Record<string, { was: Schemas['OldEdge']['was']; by: string }>>({})
const by = ref('')
const side = ref<Schemas['MoveLine']['line']>('outside')
const chosen = computed(() => (table.chosen.value?.ring === 0 ? (table.chosen.value.edge ?? null) : null))

function set(name: string, change: Partial<{ was: Schemas['OldEdge']['was']; by: string }>) {
  own[name] = { ...(own[name] ?? { was: 'unpicked', by: '' }), ...change }
}
const given = computed(() => edges.value.flatMap((e, edge) => (own[e.name] ? [{ edge, ...own[e.name]! }] : [])))
const allowances = computed(() => ({ rest: rest.value, ...Object.fromEntries(given.value.map((g) => [`edge ${g.edge}`, g.by])) }))
const draw = () => work.oldCover(given.value, rest.value)
function drawn() {
  rest.value = ''
  for (const name of Object.keys(own)) delete own[name]
}
const moveOff = () => work.standOff(by.value, side.value)
</script>

<template>
  <div class="part">
    <h2>Old cloth, or a line that stands off</h2>
    <p class="soft small">
      What was captured is where the old cloth ended. Its seam line lies further in by the allowance still on it, or further out where it
      was cut away.
    </p>
    <AskedForm class="part" :values="allowances" :send="draw" @taken="drawn">
      <label class="line">allowance still on every edge <InlineField v-model="rest" placeholder="0" /> {{ job?.unit }}</label>
      <div v-if="chosen !== null && edges[chosen]" class="own">
        <b>Edge {{ edges[chosen]!.name }} alone</b>
        <ChoiceRow
          label="What this edge was"
          :choices="WAS"
          small
          :model-value="own[edges[chosen]!.name]?.was ?? null"
          @update:model-value="(was) => was && set(edges[chosen!]!.name, { was })"
        />
        <label v-if="own[edges[chosen]!.name] && own[edges[chosen]!.name]!.was !== 'whole'" class="line"
          >by
          <InlineField
            :aria-label="`Edge ${edges[chosen]!.name} by`"
            :model-value="own[edges[chosen]!.name]!.by"
            @update:model-value="set(edges[chosen]!.name, { by: $event ?? '' })"
          />
          {{ job?.unit }}</label
        >
      </div>
      <p v-else class="soft small">Choose an edge to say that it is different.</p>
      <p v-if="Object.keys(own).length" class="small">
        {{
          Object.entries(own)
            .map(([name, o]) => `${name} ${WAS[o.was]}${o.was === 'whole' ? '' : ` ${o.by}`}`)
            .join(', ')
        }}
      </p>
      <v-btn type="submit" :disabled="!rest && !Object.keys(own).length">Draw its seam line</v-btn>
    </AskedForm>
    <AskedForm class="off" :values="{ by, side }" :send="moveOff" @taken="by = ''">
      <p class="soft small">
        A pencil run round a solid stands off by half its thickness. Chalk along the foot of a piping lies inside the seam by half the cord.
      </p>
      <label class="line"
        >the line runs
        <InlineChoice v-model="side" :choices="SIDES" aria-label="The line runs" />
        by <InlineField v-model="by" aria-label="Stand-off" /> {{ job?.unit }}</label
      >
      <v-btn type="submit" :disabled="!by">Move the line</v-btn>
    </AskedForm>
    <p class="soft small">Was it pinned wrong side out? Then you want the other hand.</p>
    <v-btn @click="work.turnOver">Turn it over</v-btn>
  </div>
</template>

<style scoped>
.off > * {
  margin-top: 8px;
}
.line {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px;
}
.line .typed {
  width: 52px;
}
.line select.typed {
  width: 88px;
}
.own {
  display: grid;
  gap: 6px;
  padding: 8px 10px;
  border-radius: 8px;
  background: var(--table);
}
</style>

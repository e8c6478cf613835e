<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'
import { rowsIn, type Field } from './fields'
import InlineChoice from './InlineChoice.vue'
import InlineField from './InlineField.vue'

/** Several of the same: a row each, as posts or stations along a line, and always an empty one for the next; `values` by
 * `of.number.field`. */
const props = defineProps<{ title: string; of: string; columns: readonly Field[]; values: Record<string, string>; unit: string }>()
const emit = defineEmits<{ set: [key: string, value: string]; less: [row: number] }>()
const filled = computed(() => rowsIn(props.values, props.of))
const headed = (f: Field) => (f.kind === 'length' ? `${f.title}, ${props.unit}` : f.kind === 'place' ? `${f.title} (across; up)` : f.title)
const at = (row: number, f: Field) => `${props.of}.${row}.${f.key}`
</script>

<template>
  <fieldset class="rows">
    <legend>{{ title }}</legend>
    <table>
      <thead>
        <tr>
          <th v-for="f in columns" :key="f.key">{{ headed(f) }}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="k in filled + 1" :key="k">
          <td v-for="f in columns" :key="f.key">
            <InlineChoice
              v-if="f.choices"
              :choices="f.choices"
              :aria-label="`${title} ${k}, ${f.title}`"
              :model-value="values[at(k - 1, f)] || f.usual"
              @update:model-value="emit('set', at(k - 1, f), $event ?? '')"
            />
            <InlineField
              v-else
              :words="f.kind === 'text' || f.kind === 'place'"
              :aria-label="`${title} ${k}, ${f.title}`"
              :placeholder="f.usual"
              :model-value="values[at(k - 1, f)]"
              @update:model-value="emit('set', at(k - 1, f), $event ?? '')"
            />
          </td>
          <td>
            <v-btn v-if="k <= filled" :icon="mdiClose" variant="text" :aria-label="`Remove ${title} ${k}`" @click="emit('less', k - 1)" />
          </td>
        </tr>
      </tbody>
    </table>
  </fieldset>
</template>

<style scoped>
.rows {
  grid-column: 1 / -1;
}
table {
  border-spacing: 6px 2px;
  margin-left: -6px;
}
th {
  text-align: left;
  font-weight: 400;
  font-size: 13px;
  color: var(--soft-ink);
}
.typed {
  box-sizing: border-box;
  width: 100%;
  min-width: 60px;
  max-width: 124px;
}
</style>

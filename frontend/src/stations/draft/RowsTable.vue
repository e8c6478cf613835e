<script setup lang="ts">
import { computed } from 'vue'
import { keyOf, rowsIn, type Asked } from '../../logic/families'
import type { Choice } from '../../ui/fields'

/** Several of the same: a row each, as posts or the areas of a slip, and always an empty one for the next; `values` by
 * `part.name.number.field`. */
const props = defineProps<{ asked: Asked; values: Record<string, string>; pieces: readonly Choice[]; unit: string }>()
const emit = defineEmits<{ set: [key: string, value: string]; less: [row: number] }>()
const key = computed(() => keyOf(props.asked))
const filled = computed(() => rowsIn(props.values, key.value))
const columns = computed(() => props.asked.rows.filter((a) => a.kind !== 'points'))
const choicesOf = (a: Asked): readonly Choice[] =>
  a.kind === 'outline' ? props.pieces : a.choices.map((value) => ({ value, title: value.replaceAll('_', ' ') }))
const headed = (a: Asked) => (a.kind === 'length' ? `${a.title}, ${props.unit}` : a.kind === 'place' ? `${a.title} (across; up)` : a.title)
const at = (k: number, a: Asked) => `${key.value}.${k}.${a.name}`
</script>

<template>
  <fieldset class="rows">
    <legend>{{ asked.title }}</legend>
    <table>
      <thead>
        <tr>
          <th v-for="a in columns" :key="a.name">{{ headed(a) }}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="k in filled + 1" :key="k">
          <td v-for="a in columns" :key="a.name">
            <select
              v-if="a.kind === 'choice' || a.kind === 'outline'"
              class="typed"
              :aria-label="`${asked.title} ${k}, ${a.title}`"
              :value="values[at(k - 1, a)] || a.usual"
              @change="emit('set', at(k - 1, a), ($event.target as HTMLSelectElement).value)"
            >
              <option v-if="a.kind === 'outline'" value="">—</option>
              <option v-for="c in choicesOf(a)" :key="c.value" :value="c.value">{{ c.title }}</option>
            </select>
            <input
              v-else
              class="typed"
              autocomplete="off"
              :aria-label="`${asked.title} ${k}, ${a.title}`"
              :placeholder="a.usual"
              :value="values[at(k - 1, a)]"
              @input="emit('set', at(k - 1, a), ($event.target as HTMLInputElement).value)"
            />
          </td>
          <td>
            <v-btn v-if="k <= filled" size="small" :aria-label="`Remove ${asked.title} ${k}`" @click="emit('less', k - 1)">Remove</v-btn>
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
  width: 108px;
}
</style>

<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'
import ChosenField from './ChosenField.vue'
import { asked, type Choice, type Field } from './fields'
import type { Refused } from './refused'
import TickField from './TickField.vue'
import TypedField from './TypedField.vue'

/** The fields of a form, one below the other; `values` are texts as they are typed, "yes" or nothing where
 * one is ticked; `set` gives each as it is typed, `change` says that it is.
 * `lists` has what may be chosen where a field only says of what kind it is, `unit` the unit of lengths, if it is to be shown. */
const props = defineProps<{
  fields: readonly Field[]
  values: Record<string, string>
  lists?: Record<string, readonly Choice[]>
  unit?: string
  refused?: Refused | null
}>()
const now = computed(() => asked(props.fields, props.values))
const plain = computed(() => now.value.filter((f) => !f.part))
/** Fields that are asked apart from the others, by what they are asked with; one such part is open at a time. */
const group = useId()
const parts = computed(() => {
  const names = [...new Set(now.value.flatMap((f) => f.part ?? []))]
  return names.map((name) => ({ name, fields: now.value.filter((f) => f.part === name).map((f) => ({ ...f, part: undefined })) }))
})
const opened = ref(plain.value.length ? undefined : parts.value[0]?.name)
watch(
  () => now.value.find((f) => f.key === props.refused?.at)?.part,
  (part) => {
    if (part) opened.value = part
  },
  { immediate: true },
)
function toggled(name: string, open: boolean) {
  if (open) opened.value = name
  else if (opened.value === name) opened.value = undefined
}
const emit = defineEmits<{ set: [key: string, value: string]; change: [key: string] }>()
const choicesOf = (f: Field) => f.choices ?? props.lists?.[f.kind ?? ''] ?? []
const unitOf = (f: Field) => (props.unit === undefined || f.kind === 'text' ? undefined : f.kind === 'percent' ? '%' : props.unit)
</script>

<template>
  <template v-for="f in plain" :key="f.key">
    <TickField
      v-if="f.kind === 'yes'"
      :title="f.title"
      :model-value="!!values[f.key]"
      @update:model-value="emit('set', f.key, $event ? 'yes' : '')"
    />
    <ChosenField
      v-else-if="f.kind === 'choice' || f.kind === 'edge' || f.kind === 'piece'"
      :title="f.title"
      :choices="choicesOf(f)"
      :model-value="values[f.key]"
      @update:model-value="emit('set', f.key, $event ?? '')"
    />
    <TypedField
      v-else
      :title="f.title"
      :words="f.kind === 'text'"
      :unit="unitOf(f)"
      :placeholder="f.usual"
      :model-value="values[f.key]"
      :refused="refused?.at === f.key ? refused.why : ''"
      @update:model-value="emit('set', f.key, $event ?? '')"
      @change="emit('change', f.key)"
    />
  </template>
  <details
    v-for="p in parts"
    :key="p.name"
    :name="group"
    :open="opened === p.name"
    @toggle="toggled(p.name, ($event.target as HTMLDetailsElement).open)"
  >
    <summary>{{ p.name }}</summary>
    <FormFields
      :fields="p.fields"
      :values="values"
      :lists="lists"
      :unit="unit"
      :refused="refused"
      @set="(key, value) => emit('set', key, value)"
      @change="emit('change', $event)"
    />
  </details>
</template>

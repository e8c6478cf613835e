<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { FINISHES, MORE_FINISHES } from '../../logic/finishes'
import { useDraftBench, useOpenJob } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'
import { useEdges } from './useEdges'

/** What is set most often on an edge, at the edge: its allowance and its finish. */
type Finish = NonNullable<Parameters<ReturnType<typeof useEdges>['set']>[0]['finish']>
const { job } = useOpenJob()
const draft = useDraftBench()
const { edges, same, set, keep } = useEdges()
const field = useTemplateRef('field')
defineExpose({ type: (key: string) => field.value?.type(key) })
</script>

<template>
  <span>{{ edges.length > 1 ? `${edges.length} edges` : `${edges[0]?.name} ${edges[0]?.length}` }}</span>
  <span aria-hidden="true">+</span>
  <EntryField
    ref="field"
    large
    label="Allowance"
    :value="same('allowance')"
    :hint="edges.length > 1 ? 'differ' : '0'"
    :unit="job?.unit"
    :keep="(allowance) => keep({ allowance })"
    @left="draft.leave()"
  />
  <select
    class="typed"
    aria-label="Finish"
    :value="same('finish')"
    @change="set({ finish: ($event.target as HTMLSelectElement).value as Finish })"
  >
    <option v-if="!same('finish')" value="" disabled>differ</option>
    <option v-for="f in [...FINISHES, ...MORE_FINISHES]" :key="f.key" :value="f.key">{{ f.title }}</option>
  </select>
</template>

<style scoped>
select.typed {
  width: 118px;
}
</style>

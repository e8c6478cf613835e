<script setup lang="ts">
import { computed } from 'vue'
import ClothPicture from '../../bench/ClothPicture.vue'
import { asked } from '../../ui/fields'
import { useDraftBench, useOpenJob } from '../../state/keys'
import EntryField from '../../ui/EntryField.vue'
import type { FeatureWork } from './useFeature'

/** The one or two figures of a feature that are set most often, at the feature. */
const props = defineProps<{ work: FeatureWork }>()
const { job } = useOpenJob()
const draft = useDraftBench()
const { chosenFeature } = draft
const form = computed(() => props.work.form.value)
const fields = computed(() => {
  const now = chosenFeature.value
  return form.value && now ? asked(form.value.fields, now.values).filter((f) => form.value!.tag.includes(f.key)) : []
})
</script>

<template>
  <template v-if="form && chosenFeature">
    <ClothPicture :kind="form.kind" />
    <template v-for="f in fields" :key="f.key">
      <span class="soft small">{{ f.short ?? f.title }}</span>
      <EntryField
        :label="f.title"
        :words="f.kind === 'text'"
        :value="chosenFeature.values[f.key] ?? ''"
        :unit="f.kind ? undefined : job?.unit"
        :keep="(typed) => work.keep({ [f.key]: typed })"
        @left="draft.leave()"
      />
    </template>
  </template>
</template>
